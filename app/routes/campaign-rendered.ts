import { z } from "zod";
import { contactSheet, rendered } from "~/server/rendered/rendered";
import { fileAnswer } from "../file-answer";
import { inboxAsked } from "../inbox-asked";
import { input } from "../input";
import type { Route } from "./+types/campaign-rendered";

const Form = z.enum(["png", "pdf", "sheet"]);

/** A view of the campaign as a picture or a PDF, or all its editions on the pages of one. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const form = input(Form, params.form);
  const asked = new URL(request.url).searchParams;
  const file =
    form === "sheet"
      ? await contactSheet(septima, params.campaign)
      : await rendered(septima, params.campaign, form, {
          reader: Number(asked.get("reader")) || null,
          inbox: inboxAsked(asked),
          width: Number(asked.get("width")) || 720,
        });
  return fileAnswer(file.type, file.data, file.name);
}
