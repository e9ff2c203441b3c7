/** Templates: finished designs that campaigns start from, those of the program and the workspace's own. */
import { parseEmail } from "~/core/blocks";
import { type Offered, offersOf, searchWords, takeOffers } from "~/core/compose";
import {
  type Email,
  inlineText,
  PURPOSES,
  type Purpose,
  SEASONS,
  type Season,
  same,
  walk,
} from "~/core/email";
import { difference, pack } from "~/core/steps";
import { TEMPLATES, templateEmail } from "~/core/templates";
import { labelsIn } from "../labels";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { sources } from "../sources/sources";
import { brandOf, favouritesOf, setFavourites } from "../workspace/settings";
import { addCampaign, campaign } from "./campaigns";
import type { Framed } from "./frames";
import { lockOf } from "./lock";
import { lookFor, someReader } from "./rendering";
import { saveSteps } from "./saving";

/** A template as the gallery shows it. */
export interface TemplateLine {
  id: string;
  name: string;
  about: string;
  purpose: Purpose | "";
  season: Season | "";
  /** The most columns a row has. */
  columns: number;
  theme: string;
  subject: string;
  labels: string[];
  /** What its design is found by, in small letters. */
  words: string;
  own: boolean;
  /** Whether it is put away: it is not offered, and what was started from it stays as it is. */
  archived: boolean;
  revision: number;
  favourite: boolean;
  /** How many campaigns were started from it, and when the last one was. */
  used: number;
  lastUsed: string | null;
}

/** What is said of a template besides its design. */
export interface TemplateFacts {
  name: string;
  about: string;
  purpose: Purpose | "";
  season: Season | "";
  labels: string[];
}

/** Facts as a form gives them. @throws Refusal when something is missing */
export function templateFacts(given: Record<keyof TemplateFacts, string>): TemplateFacts {
  const name = given.name.trim();
  if (name === "") throw new Refusal("Give the template a name.");
  return {
    name,
    about: given.about.trim().slice(0, 300),
    purpose: PURPOSES.find(({ key }) => key === given.purpose)?.key ?? "",
    season: SEASONS.find((season) => season === given.season) ?? "",
    labels: labelsIn(given.labels),
  };
}

/** Marks a template, or takes the mark away. */
export async function setFavourite(septima: Septima, id: string, marked: boolean): Promise<void> {
  const all = new Set(await favouritesOf(septima));
  if (marked) all.add(id);
  else all.delete(id);
  await setFavourites(septima, [...all]);
}

const columnsOf = (email: Email) =>
  Math.max(1, ...[...walk(email)].map((it) => (it.kind === "row" ? it.node.columns.length : 1)));

/** All templates: the workspace's own, changed last first, then those of the program. */
export async function templates(septima: Septima): Promise<TemplateLine[]> {
  const [favourites, uses, own] = await Promise.all([
    favouritesOf(septima),
    septima.db.query<{ template: string; used: number; last: Date }>(
      `select template, count(*) as used, max(created_at) as last from campaigns
       where template is not null and kind = 'campaign' group by template`,
    ),
    septima.db.query<TemplateFacts & { id: string; email: unknown; revision: number; archived: boolean }>(
      `select id, name, about, purpose, season, labels, email, revision, archived_at is not null as archived from campaigns
       where kind = 'template' and deleted_at is null order by updated_at desc`,
    ),
  ]);
  const marked = new Set(favourites);
  const used = new Map(uses.map((use) => [use.template, use]));
  const mine = own.map(({ email, revision, ...facts }) => ({
    ...facts,
    ...designFacts(parseEmail(email)),
    own: true,
    revision,
  }));
  return [...mine, ...shippedLines()].map((line) => ({
    ...line,
    favourite: marked.has(line.id),
    used: Number(used.get(line.id)?.used ?? 0),
    lastUsed: used.get(line.id)?.last.toISOString() ?? null,
  }));
}

/** What the gallery says of a design. */
const designFacts = (email: Email) => ({
  columns: columnsOf(email),
  theme: email.theme,
  subject: inlineText(email.envelope.subject),
  words: searchWords(email).slice(0, 8000),
});

/** The templates of the program, read once: they do not change while it runs. */
const shippedLines = once(() =>
  TEMPLATES.map((one) => ({
    id: one.id,
    name: one.name,
    about: one.about,
    purpose: one.purpose,
    season: one.season ?? ("" as const),
    labels: [],
    ...designFacts(templateEmail(one, "")),
    own: false,
    archived: false,
    revision: 0,
  })),
);

function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}

/** The template of the program with that id. */
const shipped = (id: string) => TEMPLATES.find((one) => one.id === id);

/**
 * A template's design, with the first source for its live blocks and the first sender.
 * @throws Refusal (404) when there is none
 */
export async function templateDesign(
  septima: Septima,
  id: string,
): Promise<TemplateFacts & { email: Email; own: boolean }> {
  const ours = shipped(id);
  if (ours) {
    const feed = (await sources(septima)).find(({ kind }) => kind === "feed");
    return {
      name: ours.name,
      about: ours.about,
      purpose: ours.purpose,
      season: ours.season ?? "",
      labels: [],
      email: await signed(septima, templateEmail(ours, feed?.id ?? "")),
      own: false,
    };
  }
  const [row] = await septima.db.query<TemplateFacts & { email: unknown }>(
    "select name, about, purpose, season, labels, email from campaigns where id = $1 and kind = 'template' and deleted_at is null",
    [id],
  );
  if (!row) throw new Refusal("This template does not exist, or was deleted.", 404);
  return { ...row, email: await signed(septima, parseEmail(row.email)), own: true };
}

/** The design with a sender; the workspace's first where it has none. */
async function signed(septima: Septima, email: Email): Promise<Email> {
  if (email.envelope.sender.address !== "") return email;
  const [sender] = (await brandOf(septima)).senders;
  return {
    ...email,
    envelope: {
      ...email.envelope,
      sender: { name: [{ type: "text", text: sender.name }], address: sender.address },
    },
  };
}

/**
 * Starts a campaign from a template, which it remembers. Returns its id.
 * @param theme another theme than the template's
 */
export async function startFromTemplate(
  septima: Septima,
  id: string,
  name: string,
  theme?: string,
): Promise<string> {
  const template = await templateDesign(septima, id);
  const campaignId = await addCampaign(septima, {
    name: name.trim() || template.name,
    series: "",
    season: template.season,
    email: theme ? { ...template.email, theme } : template.email,
  });
  await septima.db.query("update campaigns set template = $2, template_email = $3::jsonb where id = $1", [
    campaignId,
    id,
    JSON.stringify(template.email),
  ]);
  return campaignId;
}

/** Adds a template of the workspace's own. Returns its id. */
export async function addTemplate(septima: Septima, facts: TemplateFacts, email: Email): Promise<string> {
  const id = await addCampaign(septima, { name: facts.name, series: "", email });
  await septima.db.query(
    "update campaigns set kind = 'template', about = $2, purpose = $3, season = $4, labels = $5::jsonb where id = $1",
    [id, facts.about, facts.purpose, facts.season, JSON.stringify(facts.labels)],
  );
  return id;
}

/**
 * Keeps a campaign's design as a template. The campaign counts as made from it: what is changed there is offered here.
 * @returns the template's id
 */
export async function keepAsTemplate(
  septima: Septima,
  campaignId: string,
  facts: TemplateFacts,
  email: Email,
): Promise<string> {
  const id = await addTemplate(septima, facts, email);
  await septima.db.query("update campaigns set template = $2, template_email = $3::jsonb where id = $1", [
    campaignId,
    id,
    JSON.stringify(email),
  ]);
  return id;
}

/** A copy of a template as one of the workspace's own, to be changed. Returns its id. */
export async function copyTemplate(septima: Septima, id: string): Promise<string> {
  const { email, own, ...facts } = await templateDesign(septima, id);
  return addTemplate(septima, { ...facts, name: `${facts.name} (${own ? "copy" : "ours"})` }, email);
}

/** Changes what is said of a template of the workspace's own. */
export async function describeTemplate(septima: Septima, id: string, facts: TemplateFacts): Promise<void> {
  const rows = await septima.db.query(
    `update campaigns set name = $2, about = $3, purpose = $4, season = $5, labels = $6::jsonb
     where id = $1 and kind = 'template' and deleted_at is null returning id`,
    [id, facts.name, facts.about, facts.purpose, facts.season, JSON.stringify(facts.labels)],
  );
  if (rows.length === 0)
    throw new Refusal("Only templates of your own can be changed. Make a copy first.", 409);
}

/** An unsent campaign made from a template, and what the template's changes would do to it. */
export interface TemplateOffer {
  campaign: string;
  name: string;
  updatedAt: string;
  revision: number;
  theme: string;
  changes: Offered[];
}

interface MadeFrom {
  id: string;
  name: string;
  email: unknown;
  template_email: unknown;
  revision: number;
  updated_at: Date;
}

/** Unsent campaigns that were made from a template and lack changes of it. */
export async function templateOffers(septima: Septima, id: string): Promise<TemplateOffer[]> {
  if (shipped(id)) return [];
  const { email: template } = await templateDesign(septima, id);
  const rows = await madeFrom(septima, id);
  return rows.flatMap((row) => {
    const [base, draft] = [parseEmail(row.template_email), parseEmail(row.email)];
    if (same(base, template)) return [];
    const changes = offersOf(base, template, draft);
    if (changes.length === 0) return [];
    return [
      {
        campaign: row.id,
        name: row.name,
        updatedAt: row.updated_at.toISOString(),
        revision: row.revision,
        theme: draft.theme,
        changes,
      },
    ];
  });
}

function madeFrom(septima: Septima, id: string): Promise<MadeFrom[]> {
  return septima.db.query<MadeFrom>(
    `select c.id, c.name, c.email, c.template_email, c.revision, c.updated_at from campaigns c
     where c.template = $1 and c.template_email is not null and c.kind = 'campaign' and c.deleted_at is null
       and not exists (select 1 from dispatches d where d.campaign_id = c.id and d.state <> 'cancelled')
     order by c.updated_at desc`,
    [id],
  );
}

/**
 * How a campaign made from a template would look with its changes to the chosen parts, and without any as it is.
 * @throws Refusal (404) when the campaign was not made from the template, or was sent
 */
export async function offerPicture(
  septima: Septima,
  id: string,
  campaignId: string,
  parts: readonly string[],
): Promise<Framed> {
  const { draft, changes } = await offeredTo(septima, id, campaignId);
  const shown = takeOffers(draft, changes, new Set(parts));
  return (await lookFor(septima, shown, await someReader(septima))).look;
}

/** A campaign made from a template, with all that the template has become since. @throws Refusal (404) */
async function offeredTo(septima: Septima, id: string, campaignId: string) {
  const { email: template } = await templateDesign(septima, id);
  const row = (await madeFrom(septima, id)).find((one) => one.id === campaignId);
  if (!row) throw new Refusal("This campaign was not made from this template, or was deleted.", 404);
  const [base, draft] = [parseEmail(row.template_email), parseEmail(row.email)];
  return { template, draft, revision: row.revision, changes: offersOf(base, template, draft) };
}

/**
 * Does a template's changes to the chosen parts of a campaign made from it. What is not chosen is not offered again
 * until the template changes once more.
 * @throws Refusal when the campaign is scheduled or sent, was deleted, or was not made from the template
 */
export async function takeTemplate(
  septima: Septima,
  id: string,
  campaignId: string,
  parts: readonly string[],
): Promise<void> {
  if (await lockOf(septima.db, campaignId))
    throw new Refusal("This campaign is scheduled or was sent, so it stays as it is.", 409);
  const { template, draft, revision, changes } = await offeredTo(septima, id, campaignId);
  const taken = takeOffers(draft, changes, new Set(parts));
  const answer = await saveSteps(septima, campaignId, {
    revision,
    save: septima.newId(),
    steps: pack(difference(draft, taken)),
  });
  if (answer.state === "refused") throw new Refusal(answer.why, 409);
  if (answer.state === "behind")
    throw new Refusal("The campaign was changed meanwhile. Look at the changes again.", 409);
  await septima.db.query("update campaigns set template_email = $2::jsonb where id = $1", [
    campaignId,
    JSON.stringify(template),
  ]);
}

/**
 * Gives unsent designs a theme as it is now. Those that were booked or sent are left alone.
 * @returns how many were changed
 */
export async function takeTheme(
  septima: Septima,
  theme: string,
  designs: readonly string[],
): Promise<number> {
  let done = 0;
  for (const id of designs) {
    if (await lockOf(septima.db, id)) continue;
    const { email, revision } = await campaign(septima, id);
    if (email.theme === theme) continue;
    const answer = await saveSteps(septima, id, {
      revision,
      save: septima.newId(),
      steps: pack([{ op: "set", id: null, path: "theme", before: email.theme, after: theme }]),
    });
    if (answer.state === "saved") done++;
  }
  return done;
}

/**
 * A template as its pictures show it: in any theme, as one of the readers gets it; and what a frame with it may do.
 * @param themeId another theme than its own
 */
export async function templatePicture(septima: Septima, id: string, themeId?: string): Promise<Framed> {
  const { email } = await templateDesign(septima, id);
  const shown = themeId ? { ...email, theme: themeId } : email;
  return (await lookFor(septima, shown, await someReader(septima))).look;
}
