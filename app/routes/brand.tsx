import { useFetcher } from "react-router";
import { isAddress } from "~/core/audience";
import { type Brand, BrandSchema, THEMES } from "~/core/email";
import { GLYPH_NAMES } from "~/core/markup";
import { latestDraft } from "~/server/campaigns/campaigns";
import { pictures } from "~/server/pictures/library";
import { Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";
import { brandOf, setBrand } from "~/server/workspace/settings";
import { ownThemes } from "~/server/workspace/themes";
import { Colours } from "../brand/colours";
import { HouseLook } from "../brand/house-look";
import { Logos } from "../brand/logos";
import { Repeated } from "../brand/repeated";
import { Type } from "../brand/type";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Area, Input, Labelled } from "../ui/form";
import { Page } from "../ui/page";
import { useDraft } from "../ui/use-draft";
import type { Route } from "./+types/brand";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return {
    brand: await brandOf(septima),
    pictures: await pictures(septima),
    themes: [...(await ownThemes(septima)).map(({ theme }) => theme), ...THEMES],
    draft: await latestDraft(septima),
  };
}

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const brand = await jsonInput(request, BrandSchema);
  return orProblem(async () => {
    await keep(septima, brand);
    return true;
  });
}

/** Keeps a brand that a letter can be sent with. @throws Refusal that names what is missing or wrong */
async function keep(septima: Septima, brand: Brand): Promise<void> {
  const senders = brand.senders
    .map((sender) => ({
      name: sender.name.trim(),
      address: sender.address.trim(),
      ...(sender.replyTo?.trim() && { replyTo: sender.replyTo.trim() }),
    }))
    .filter(({ address }) => address !== "");
  for (const { address, replyTo } of senders)
    for (const one of [address, replyTo])
      if (one !== undefined && !isAddress(one)) throw new Refusal(`“${one}” is not an address.`);
  if (senders.length === 0) throw new Refusal("Keep at least one sender.");
  if (brand.name.trim() === "") throw new Refusal("Give the sender’s name.");
  if (brand.address.trim() === "")
    throw new Refusal("Give a postal address: the law in most places asks for it in every letter.");
  for (const keys of [brand.constants ?? [], brand.addresses ?? []]) {
    const twice = keys.find(({ key }, at) => keys.findIndex((one) => one.key === key) !== at);
    if (twice) throw new Refusal(`“${twice.key}” is there twice. Merge tags could not tell which is meant.`);
  }
  const reserved = brand.constants?.find(({ key }) => key === "name" || key === "address");
  if (reserved) throw new Refusal(`“${reserved.key}” is the brand’s own already. Choose another short name.`);
  const stranger = brand.social?.find(({ glyph }) => !GLYPH_NAMES.some((name) => name === glyph));
  if (stranger) throw new Refusal(`There is no drawing “${stranger.glyph}”.`);
  const words = [...new Set((brand.words ?? []).map((word) => word.trim()).filter((word) => word !== ""))];
  await setBrand(septima, {
    ...brand,
    ...(brand.words && { words }),
    name: brand.name.trim(),
    address: brand.address.trim(),
    senders,
  });
}

export default function BrandPage({
  loaderData: { brand: kept, pictures: all, themes, draft },
}: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const saved = fetcher.state === "idle" && fetcher.data?.result ? fetcher.data : null;
  const { draft: brand, set, changed } = useDraft<Brand>(kept, saved);
  return (
    <Page
      title="Brand"
      about="Who the letters come from, and what they look like from the start"
      problem={fetcher.data?.problem}
      actions={
        <>
          {!changed && saved && (
            <span className="self-center text-green" role="status">
              Saved
            </span>
          )}
          <Button
            kind="primary"
            disabled={!changed || fetcher.state !== "idle"}
            onClick={() =>
              fetcher.submit(JSON.stringify(brand), { method: "post", encType: "application/json" })
            }
          >
            Save
          </Button>
        </>
      }
    >
      <div className={BESIDE}>
        <section className="card space-y-4 p-5" aria-label="The sender">
          <h2 className="text-[15px] font-semibold">The sender</h2>
          <Labelled label="Name">
            <Input value={brand.name} onChange={(e) => set({ name: e.target.value })} />
          </Labelled>
          <Labelled label="Postal address" hint="Stands in every footer.">
            <Input value={brand.address} onChange={(e) => set({ address: e.target.value })} />
          </Labelled>
          <Labelled label="Website">
            <Input value={brand.website} onChange={(e) => set({ website: e.target.value })} />
          </Labelled>
        </section>
        <Logos brand={brand} pictures={all} onChange={set} />
        <HouseLook theme={brand.theme} themes={themes} draft={draft} onChange={(theme) => set({ theme })} />
        <Colours brand={brand} onChange={set} />
        <Type fonts={brand.fonts ?? []} onChange={(fonts) => set({ fonts })} />
      </div>
      <div className="mb-5 space-y-5">
        <Repeated
          title="Senders"
          about="Who an email can come from. Answers go to the address itself, or to another one."
          add="Add a sender"
          rows={brand.senders}
          fresh={{ name: "", address: "" }}
          columns={[
            { key: "name", label: "Name of the sender", placeholder: "Name" },
            { key: "address", label: "Address of the sender", placeholder: "letters@…", check: checkAddress },
            { key: "replyTo", label: "Answers go to", placeholder: "answers to", check: checkAddress },
          ]}
          onChange={(senders) => set({ senders })}
        />
        <Repeated
          title="Constants"
          about="Words that stand in many emails, written once: type @ in a text to put one in. With an address they are links."
          add="Add a constant"
          rows={brand.constants ?? []}
          fresh={{ key: "", text: "" }}
          columns={[
            { key: "key", label: "Short name", placeholder: "shop_phone", check: checkKey },
            { key: "text", label: "Words", placeholder: "01632 960 100" },
            { key: "href", label: "Leads to", placeholder: "tel: or https://" },
          ]}
          onChange={(constants) => set({ constants })}
        />
      </div>
      <div className={BESIDE}>
        <Repeated
          title="More postal addresses"
          about="Such as branches; put in with @ as well."
          add="Add an address"
          rows={brand.addresses ?? []}
          fresh={{ key: "", text: "" }}
          columns={[
            { key: "key", label: "Short name of the address", placeholder: "marl_bay", check: checkKey },
            { key: "text", label: "Postal address of it", placeholder: "2 Quay Street, Marl Bay" },
          ]}
          onChange={(addresses) => set({ addresses })}
        />
        <Repeated
          title="Where else you are"
          about="Blocks of social links begin with these."
          add="Add a link"
          rows={brand.social ?? []}
          fresh={{ glyph: "globe", label: "", href: "" }}
          columns={[
            { key: "label", label: "Name of the place", placeholder: "Pictures" },
            { key: "href", label: "Address of the place", placeholder: "https://…" },
          ]}
          glyphs={all}
          onChange={(social) => set({ social })}
        />
        <Repeated
          title="Footers"
          about="Words that a footer can begin with; the unsubscribe link and the address are always there."
          add="Add a footer"
          rows={brand.footers ?? []}
          fresh={{ name: "", text: "" }}
          columns={[
            { key: "name", label: "Name of the footer", placeholder: "Usual" },
            { key: "text", label: "Its words", placeholder: "You get this because…" },
          ]}
          onChange={(footers) => set({ footers })}
        />
        <section className="card space-y-2 p-5" aria-label="Words of your own">
          <h2 className="text-[15px] font-semibold">Words of your own</h2>
          <Labelled
            label="Words that no dictionary knows"
            hint="A word in a line. Preflight does not ask for them."
          >
            <Area
              rows={5}
              value={(brand.words ?? []).join("\n")}
              onChange={(event) => set({ words: event.target.value.split("\n") })}
            />
          </Labelled>
        </section>
      </div>
    </Page>
  );
}

/** Cards of any height, two beside each other. */
const BESIDE = "columns-2 gap-5 max-lg:columns-1 *:mb-5 *:break-inside-avoid";

const checkAddress = (text: string) =>
  text.trim() === "" || isAddress(text.trim()) ? null : "This is not an address.";
const checkKey = (text: string) =>
  text === "" || /^[a-z][a-z0-9_]{0,39}$/.test(text) ? null : "Small letters, digits and _, a letter first.";
