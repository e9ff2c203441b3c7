import { useEffect, useMemo, useState } from "react";
import type { ShouldRevalidateFunctionArgs } from "react-router";
import type { Contact } from "~/core/audience";
import { listAsks, placedIn } from "~/core/blocks";
import { picturesNamed } from "~/core/compose";
import { factsOfSource } from "~/core/sources";
import { contactById } from "~/server/audience/contacts";
import { ruleWords } from "~/server/audience/words";
import { campaign } from "~/server/campaigns/campaigns";
import { lockOf } from "~/server/campaigns/lock";
import { whoReads } from "~/server/campaigns/rendering";
import { tagFacts } from "~/server/campaigns/tag-facts";
import { picturesAround } from "~/server/pictures/library";
import { Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";
import { pickedFor } from "~/server/sources/picks";
import { itemsLinked } from "~/server/sources/placed";
import { sources } from "~/server/sources/sources";
import { brandOf } from "~/server/workspace/settings";
import { allThemes, ownThemes } from "~/server/workspace/themes";
import { Composer } from "../composer/shell/composer";
import type { Route } from "./+types/compose";
import { TOOLS_ID } from "./campaign";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const { id, email, revision, updatedAt, readers: selection } = await campaign(septima, params.campaign);
  const lock = await lockOf(septima.db, id);
  const [allSources, words, brand, tags, allPictures, themes, own] = await Promise.all([
    sources(septima),
    ruleWords(septima),
    brandOf(septima),
    tagFacts(septima, id),
    picturesAround(septima, picturesNamed(email)),
    allThemes(septima),
    ownThemes(septima),
  ]);
  const { editions, trouble, size, lacking, first } = await whoReads(
    septima,
    email,
    selection,
    words.fields,
    id,
  );
  const reader = (await askedReader(septima, request)) ?? editions[0]?.sample ?? first;
  const lists = { asks: listAsks(email), placed: placedIn(email), campaign: id };
  return {
    campaign: id,
    picks: await pickedFor(septima, lists, reader),
    email,
    revision,
    savedAt: updatedAt,
    lock,
    brand,
    tags: { ...tags, items: await itemsLinked(septima, email) },
    themes,
    ownThemes: own.map(({ theme }) => theme),
    words,
    sources: allSources.map(({ id: source, name, kind, held, failure, mapping }) => ({
      id: source,
      name,
      kind,
      held,
      failure,
      facts: factsOfSource({ kind, mapping }),
    })),
    pictures: allPictures,
    reader,
    editions,
    trouble,
    audienceSize: size,
    lacking,
  };
}

/** The reader that the address asks for; null when there is none, or none any more. */
async function askedReader(septima: Septima, request: Request): Promise<Contact | null> {
  const id = Number(new URL(request.url).searchParams.get("reader"));
  if (!Number.isInteger(id) || id <= 0) return null;
  return contactById(septima, id).catch((error) => {
    if (error instanceof Refusal) return null;
    throw error;
  });
}

/** The composer keeps the state; what it saves need not be loaded again, another campaign must. */
export function shouldRevalidate({ currentParams, nextParams }: ShouldRevalidateFunctionArgs) {
  return currentParams.campaign !== nextParams.campaign;
}

export default function Compose({ loaderData }: Route.ComponentProps) {
  const [mounted, setMounted] = useState(false);
  useEffect(() => setMounted(true), []);
  const start = useMemo(() => {
    const {
      campaign: id,
      brand,
      tags,
      themes,
      ownThemes: own,
      words,
      sources: allSources,
      picks,
      lacking,
      ...rest
    } = loaderData;
    return {
      ...rest,
      facts: {
        campaign: id,
        brand,
        tags,
        themes,
        ownThemes: own,
        words,
        sources: allSources,
        picks: new Map(picks.map((picked) => [picked.block, picked])),
        lacking,
        audience: {
          today: words.today,
          zone: words.zone,
          segments: new Map(words.segments.map((segment) => [segment.id, segment.rule])),
        },
      },
    };
  }, [loaderData]);
  return (
    <>
      <title>Compose · Septima</title>
      {mounted ? (
        <Composer key={loaderData.campaign} start={start} toolsId={TOOLS_ID} />
      ) : (
        <p className="p-8 text-ink-soft">Laying out the table…</p>
      )}
    </>
  );
}
