import { useEffect, useState } from "react";
import { Area, Input } from "../ui/form";

/** A field that counts when it is left, or with Enter. */
export function Written({
  value,
  rows,
  placeholder,
  onWritten,
}: {
  value: string;
  rows?: number;
  placeholder?: string;
  onWritten(value: string): void;
}) {
  const [draft, setDraft] = useState(value);
  useEffect(() => setDraft(value), [value]);
  const leave = () => draft !== value && onWritten(draft);
  const shared = {
    value: draft,
    placeholder,
    onBlur: leave,
    onChange: (event: { target: { value: string } }) => setDraft(event.target.value),
  };
  if (rows) return <Area {...shared} rows={rows} />;
  return <Input {...shared} onKeyDown={(event) => event.key === "Enter" && leave()} />;
}
