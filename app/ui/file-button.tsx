import clsx from "clsx";
import { Upload } from "lucide-react";
import { buttonLook } from "./button";

/** A button that takes a file, or several; the same file can be given again. */
export function FileButton({
  label,
  accept,
  bare = false,
  disabled = false,
  many = false,
  kind = "plain",
  onFile,
}: {
  label: string;
  accept: string;
  /** Whether it shows its drawing alone. */
  bare?: boolean;
  disabled?: boolean;
  /** Whether several may be given at once. */
  many?: boolean;
  kind?: "primary" | "plain";
  /** Called for each file. */
  onFile(file: File): void;
}) {
  return (
    <label
      title={bare ? "Upload" : undefined}
      className={clsx(
        bare
          ? "grid size-8 shrink-0 place-items-center rounded-md border bg-paper hover:bg-black/4"
          : buttonLook(kind),
        // Around what is out of sight in it: else that stands somewhere below, and makes a page scroll.
        "relative cursor-pointer focus-within:outline-2 focus-within:outline-mulberry",
      )}
    >
      <Upload className="size-4" aria-hidden /> {!bare && label}
      <input
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        disabled={disabled}
        multiple={many}
        onChange={(event) => {
          for (const file of event.target.files ?? []) onFile(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}
