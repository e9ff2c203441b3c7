import { ArrowLeft } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { z } from "zod";
import { PlanSchema } from "~/core/importing";
import { changeById, keptContacts } from "~/server/audience/changing";
import { fieldsOf } from "~/server/audience/fields";
import { lists } from "~/server/audience/groups";
import { fileFacts, forgetFile, ReadingSchema, readDifferently } from "~/server/audience/import-file";
import { cancelImport, rejectedLines, runImport } from "~/server/audience/importing";
import { Refusal } from "~/server/refusal";
import { ImportPlan } from "../audience/import-plan";
import { ImportResult } from "../audience/import-result";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { Page } from "../ui/page";
import type { Route } from "./+types/import-file";

/** So many of the lines that were not taken are shown. */
const SHOWN = 400;

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const change = await changeById(septima, params.file).catch((error) => {
    if (error instanceof Refusal) return null;
    throw error;
  });
  if (change) {
    const { plan: _, ...rest } = change;
    return {
      change: rest,
      rejected: await rejectedLines(septima, params.file, SHOWN),
      kept: rest.state === "undone" ? await keptContacts(septima, params.file) : [],
      file: null,
    };
  }
  return {
    change: null,
    rejected: [],
    kept: [],
    file: await fileFacts(septima, params.file),
    fields: await fieldsOf(septima),
    lists: (await lists(septima)).map(({ id, name }) => ({ id, name })),
  };
}

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("run"), plan: PlanSchema }),
  z.object({ intent: z.literal("read"), reading: ReadingSchema }),
  z.object({ intent: z.enum(["cancel", "forget"]) }),
]);

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "run") {
      const { finished } = await runImport(septima, params.file, body.plan);
      // What goes wrong in it is written down with the import.
      finished.catch((error) => console.error(error));
    } else if (body.intent === "read") await readDifferently(septima, params.file, body.reading);
    else if (body.intent === "cancel") await cancelImport(septima, params.file);
    else await forgetFile(septima, params.file);
    return { done: body.intent };
  });
}

export default function ImportFile({ loaderData }: Route.ComponentProps) {
  const navigate = useNavigate();
  const title = loaderData.change?.name ?? loaderData.file?.name ?? "Import";
  return (
    <Page
      title={title}
      wide
      actions={
        <Link to="/audience/import" className="inline-flex items-center gap-1.5 text-ink-soft hover:text-ink">
          <ArrowLeft className="size-4" aria-hidden /> Imports
        </Link>
      }
    >
      {loaderData.file ? (
        <ImportPlan
          key={`${loaderData.file.id} ${JSON.stringify(loaderData.file.reading)}`}
          file={loaderData.file}
          fields={loaderData.fields}
          lists={loaderData.lists}
          onForgotten={() => navigate("/audience/import")}
        />
      ) : (
        loaderData.change && (
          <ImportResult first={loaderData.change} rejected={loaderData.rejected} kept={loaderData.kept} />
        )
      )}
    </Page>
  );
}
