import { Languages } from "lucide-react";
import { languageName, progressOf, translationState } from "~/core/translation";
import { spokenTo } from "../state/language";
import { useComposer } from "../state/store";

/** In which language the reader gets the email, and what is to do in it. */
export function SpokenHere() {
  const email = useComposer((state) => state.resting);
  const language = useComposer(spokenTo);
  const set = useComposer((state) => state.set);
  if (!email.translations) return null;
  const { missing, outdated } = progressOf(
    language === email.language ? [] : translationState(email, language),
  );
  const open = missing + outdated;
  return (
    <button
      type="button"
      title="Languages"
      onClick={() => set({ dialog: "languages" })}
      className="flex shrink-0 items-center gap-1.5 rounded-md px-1.5 py-0.5 whitespace-nowrap hover:bg-black/5"
      data-testid="spoken"
    >
      <Languages className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
      {languageName(language)}
      {open > 0 && <span className="text-amber">{open} to do</span>}
    </button>
  );
}
