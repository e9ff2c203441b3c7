import { lazy, Suspense } from "react";
import { useComposer } from "../state/store";
import { KeyList } from "./key-list";

// What is not needed for composing comes when it is first opened.
const IntakeDialog = lazy(() => import("./intake/intake-dialog"));
const LanguagesDialog = lazy(() => import("./languages/languages-dialog"));
const LinksDialog = lazy(() => import("./links"));
const QuestionsDialog = lazy(() => import("./questions-dialog"));
const TextPartDialog = lazy(() => import("./text-part"));
const KeepTemplateDialog = lazy(() => import("./keep-template"));
const WeightsDialog = lazy(() => import("./weights"));
const VersionsDialog = lazy(() => import("./versions"));

/** What opens above the composer. */
export function Dialogs({ given, onGiven }: { given: File | string | null; onGiven(): void }) {
  const dialog = useComposer((state) => state.dialog);
  return (
    <Suspense fallback={null}>
      {dialog === "keys" && <KeyList />}
      {dialog === "intake" && <IntakeDialog given={given} onDone={onGiven} />}
      {dialog === "languages" && <LanguagesDialog />}
      {dialog === "links" && <LinksDialog />}
      {dialog === "questions" && <QuestionsDialog />}
      {dialog === "template" && <KeepTemplateDialog />}
      {dialog === "text" && <TextPartDialog />}
      {dialog === "weights" && <WeightsDialog />}
      {dialog === "versions" && <VersionsDialog />}
    </Suspense>
  );
}
