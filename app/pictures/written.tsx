import { useEffect, useState } from "react";
import { Input } from "../ui/form";

/** A field that counts when it is left, or with Enter. */
export function Written({
  id,
  value,
  rows,
  placeholder,
  onWritten,
}: {
  id: string;
  value: string;
  rows?: number;
  placeholder?: string;
  onWritten(value: string): void;
}) {
  const [draft, setDraft] = useState(value);
  useEffect(() => setDraft(value), [value]);
  const leave = () => draft !== value && onWritten(draft);
  const shared = {
    id,
    value: draft,
    placeholder,
    onBlur: leave,
    onChange: (event: { target: { value: string } }) => setDraft(event.target.value),
  };
  if (rows) return <textarea {...shared} rows={rows} className="field" />;
  return <Input {...shared} onKeyDown={(event) => event.key === "Enter" && leave()} />;
}
