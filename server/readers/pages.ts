/** The pages that readers come to: each is found by a signed address, and changes something only where a form was sent. */
import { DEFAULT_THEME, PLACEHOLDER_BRAND, resolveTheme } from "~/core/email";
import {
  answerPage,
  confirmPage,
  joinAskedPage,
  joinPage,
  messagePage,
  type PageContext,
  preferencesPage,
  surveyPage,
  type Tongue,
  tongueOf,
} from "~/core/readers";
import { htmlAsSent } from "../dispatch/frozen";
import { asked, askFriend, confirmFriend, invitation } from "../referrals/joining";
import { ReadersRefusal, Refusal } from "../refusal";
import type { Septima } from "../septima";
import { readToken } from "../tokens";
import { brandOf } from "../workspace/settings";
import { allThemes, houseTheme } from "../workspace/themes";
import { answerFacts, askingOf, giveAnswer } from "./answers";
import { prefer, preferences, resubscribe, unsubscribe } from "./preferences";
import { tongueFor } from "./tongue";

/** What came to a page. */
export interface Visit {
  /** The pieces of the path after its first. */
  path: readonly string[];
  /** What was sent; null where the page is only looked at. */
  form: FormData | null;
  /** What follows the path, without its `?`. */
  query: string;
  /** The languages the browser asks for, the most wanted first (BCP 47). */
  languages: readonly string[];
}

/** What a page answers: itself, or where to look now. `letter` is a message, which shows pictures from wherever they are. */
export type PageAnswer = { html: string; status?: number; letter?: true } | { to: string };

type Page = (septima: Septima, visit: Visit) => Promise<PageAnswer>;

/** The token of looks and proofs, which belongs to nobody. */
const PREVIEW = "preview";

/** The brand and its look: the theme that new designs begin with. */
async function dressed(septima: Septima, tongue: Tongue): Promise<PageContext> {
  const brand = await brandOf(septima);
  return { ...tongue, brand, theme: resolveTheme(await houseTheme(septima), await allThemes(septima)) };
}

const here = (where: string, token: string, query = ""): { to: string } => ({
  to: `/${where}/${token}${query}`,
});

const showPreferences: Page = async (septima, { path: [token], form, query, languages }) => {
  if (token === PREVIEW)
    return {
      html: preferencesPage(await dressed(septima, await tongueFor(septima, { asked: languages })), null),
    };
  // One press in a mail program (RFC 8058), which must not be sent elsewhere by the answer.
  const oneClick = form?.get("List-Unsubscribe") === "One-Click";
  if (oneClick) await unsubscribe(septima, token, "one-click");
  else if (form) {
    const intent = form.get("intent");
    if (intent === "unsubscribe") await unsubscribe(septima, token, "page");
    else if (intent === "resubscribe") await resubscribe(septima, token);
    else if (intent === "topics") {
      await prefer(septima, token, form.getAll("topic").map(String));
      return here("unsubscribe", token, "?kept");
    } else throw new ReadersRefusal("noButton", 400);
    return here("unsubscribe", token);
  }
  const whose = await preferences(septima, token);
  const tongue = await tongueFor(septima, {
    ...(await readToken(septima, "unsubscribe", token)),
    asked: languages,
  });
  return { html: preferencesPage(await dressed(septima, tongue), whose, query === "kept") };
};

const showAnswer: Page = async (septima, { path: [token, block = "", given], form, languages }) => {
  const answer = Number(given);
  if (token === PREVIEW) {
    const context = await dressed(septima, await tongueFor(septima, { asked: languages }));
    return { html: answerPage(context, given === undefined ? null : answer) };
  }
  if (form) {
    await giveAnswer(septima, token, block, answer);
    return here("answer", `${token}/${block}/${answer}`);
  }
  const tongue = await tongueFor(septima, {
    ...(await readToken(septima, "answer", token)),
    asked: languages,
  });
  const context = await dressed(septima, tongue);
  if (given === undefined) {
    const asking = await askingOf(septima, token, block, tongue.language);
    return { html: surveyPage(context, asking, `/answer/${token}/${encodeURIComponent(block)}`) };
  }
  return { html: answerPage(context, await answerFacts(septima, token, block, answer)) };
};

const showInvitation: Page = async (septima, { path: [token], form, languages }) => {
  const invited = await invitation(septima, token);
  const context = await dressed(septima, await tongueFor(septima, { asked: languages }));
  if (!form) return { html: joinPage(context, invited) };
  const text = (name: string) => String(form.get(name) ?? "");
  const friend = {
    email: text("email").trim(),
    name: text("name"),
    agreed: form.get("agreed") === "on",
    languages,
  };
  try {
    await askFriend(septima, token, friend);
  } catch (error) {
    if (!(error instanceof ReadersRefusal) || error.status === 404) throw error;
    const problem = context.words[error.said];
    return { html: joinPage(context, invited, { ...friend, problem }), status: error.status };
  }
  return { html: joinAskedPage(context, token === PREVIEW ? null : friend.email) };
};

const showConfirmation: Page = async (septima, { path: [token], form, languages }) => {
  if (form) {
    await confirmFriend(septima, token);
    return here("join/confirm", token);
  }
  const friend = await asked(septima, token);
  const context = await dressed(septima, await tongueFor(septima, { asked: languages }));
  return { html: confirmPage(context, friend) };
};

const showLetter: Page = async (septima, { path: [token] }) => {
  if (token === PREVIEW) throw new ReadersRefusal("noLetterHere");
  const { contact, campaign: dispatch } = await readToken(septima, "letter", token);
  const html = await htmlAsSent(septima, dispatch, contact).catch((error) => {
    // What colleagues are told of it is not for readers.
    throw error instanceof Refusal ? new ReadersRefusal("noLetter") : error;
  });
  return { html, letter: true };
};

/** Each page by the path it stands under, the longer ones first. */
export const PAGES: readonly { under: string; page: Page; sends: boolean }[] = [
  { under: "/join/confirm/", page: showConfirmation, sends: true },
  { under: "/join/", page: showInvitation, sends: true },
  { under: "/unsubscribe/", page: showPreferences, sends: true },
  { under: "/answer/", page: showAnswer, sends: true },
  { under: "/letter/", page: showLetter, sends: false },
];

/** The page that says that something did not work, with its status: in the reader's language, and in the brand's look if that can be had. */
export async function troublePage(
  septima: Septima,
  error: unknown,
  languages: readonly string[],
): Promise<{ html: string; status: number }> {
  const tongue = tongueOf(...languages);
  const { words } = tongue;
  const plain = { ...tongue, brand: { ...PLACEHOLDER_BRAND, name: "" }, theme: DEFAULT_THEME };
  const context = await dressed(septima, tongue).catch(() => plain);
  const known = error instanceof Refusal ? error : new ReadersRefusal("noService", 503);
  const said = known instanceof ReadersRefusal ? known.said : known.status === 404 ? "noPage" : "noService";
  const title = known.status === 404 ? words.broken : words.failed;
  return { html: messagePage(context, title, words[said]), status: known.status };
}
