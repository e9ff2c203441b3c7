import { z } from "zod";
import { EXPORTS, exportCampaign } from "~/server/campaigns/export";
import { fileAnswer } from "../file-answer";
import { input } from "../input";
import type { Route } from "./+types/campaign-export";

const Format = z.enum(EXPORTS);

/** The campaign as a file to keep, as one reader gets it. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const format = input(Format, params.format);
  const reader = Number(new URL(request.url).searchParams.get("reader") ?? 0);
  const file = await exportCampaign(
    context.septima,
    params.campaign,
    format,
    reader > 0 ? reader : undefined,
  );
  return fileAnswer(file.type, file.data, file.name);
}
