import type { ButtonBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { FaceLines } from "./face";
import { HrefLine } from "./href";

export function ButtonControls({ block }: { block: ButtonBlock }) {
  const set = useSet(block.id);
  const _theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <>
      <Part title="Button">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the link")} />
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={block.full ?? false}
            onChange={(event) => set({ full: event.target.checked || undefined })}
          />{" "}
          Over the full width
        </label>
      </Part>
      <Part title="Look">
        <FaceLines block={block} />
      </Part>
    </>
  );
}
