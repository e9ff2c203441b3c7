import clsx from "clsx";
import { Upload } from "lucide-react";
import { buttonLook } from "./button";

/** A button that takes one file; the same file can be given again. */
export function FileButton({
  label,
  accept,
  bare = false,
  disabled = false,
  onFile,
}: {
  label: string;
  accept: string;
  /** Whether it shows its drawing alone. */
  bare?: boolean;
  disabled?: boolean;
  onFile(file: File): void;
}) {
  return (
    <label
      title={bare ? "Upload" : undefined}
      className={clsx(
        bare
          ? "grid size-8 shrink-0 place-items-center rounded-md border bg-paper hover:bg-black/4"
          : buttonLook(),
        "cursor-pointer focus-within:outline-2 focus-within:outline-mulberry",
      )}
    >
      <Upload className="size-4" aria-hidden /> {!bare && label}
      <input
        type="file"
        accept={accept}
        aria-label={bare ? label : undefined}
        className="sr-only"
        disabled={disabled}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}
