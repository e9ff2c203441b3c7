import { useState } from "react";
import { useFetcher } from "react-router";
import { isAddress } from "~/core/audience";
import { BrandSchema } from "~/core/email";
import { Refusal } from "~/server/septima";
import { pictures } from "~/server/workspace/pictures";
import { brandOf, setBrand } from "~/server/workspace/settings";
import { formInput, input } from "../input";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Input, Labelled, Problem } from "../ui/form";
import { Page } from "../ui/page";
import type { Route } from "./+types/brand";

export async function loader({ context }: Route.LoaderArgs) {
  return { brand: await brandOf(context.septima), pictures: await pictures(context.septima) };
}

export async function action({ context, request }: Route.ActionArgs) {
  const form = await formInput(request);
  const text = (key: string) => String(form.get(key) ?? "").trim();
  return orProblem(async () => {
    const senders = form
      .getAll("sender_address")
      .map((address, index) => ({
        name: String(form.getAll("sender_name")[index] ?? "").trim(),
        address: String(address).trim(),
      }))
      .filter((sender) => sender.address !== "");
    for (const { address } of senders)
      if (!isAddress(address)) throw new Refusal(`“${address}” is not an address.`);
    if (senders.length === 0) throw new Refusal("Keep at least one sender.");
    if (text("name") === "") throw new Refusal("Give the sender’s name.");
    if (text("address") === "")
      throw new Refusal("Give a postal address: the law in most places asks for it in every letter.");
    const logo = (await pictures(context.septima)).find((picture) => picture.path === text("logo"));
    await setBrand(
      context.septima,
      input(BrandSchema, {
        name: text("name"),
        address: text("address"),
        website: text("website"),
        senders,
        logo: logo && { src: logo.path, width: logo.width, height: logo.height },
      }),
    );
    return true;
  });
}

export default function BrandPage({ loaderData: { brand, pictures } }: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const [logo, setLogo] = useState(brand.logo?.src ?? "");
  return (
    <Page title="Brand" about="Who the letters come from">
      <fetcher.Form method="post" className="card max-w-2xl space-y-4 p-5">
        <Labelled label="Name">{(id) => <Input id={id} name="name" defaultValue={brand.name} />}</Labelled>
        <Labelled label="Postal address" hint="Stands in every footer.">
          {(id) => <Input id={id} name="address" defaultValue={brand.address} />}
        </Labelled>
        <Labelled label="Website">
          {(id) => <Input id={id} name="website" defaultValue={brand.website} />}
        </Labelled>
        <Labelled label="Logo" hint="Logo blocks show it; without one they write the name.">
          {(id) => (
            <div className="flex items-center gap-3">
              {logo && <img src={logo} alt="" className="h-12 max-w-32 rounded-md border object-contain" />}
              <input type="hidden" name="logo" value={logo} />
              <Choose
                id={id}
                label="Logo"
                value={logo || "none"}
                onChange={(path) => setLogo(path === "none" ? "" : path)}
                options={[
                  { value: "none", label: "No logo: the name is written" },
                  ...pictures.map((picture) => ({ value: picture.path, label: picture.name })),
                ]}
              />
            </div>
          )}
        </Labelled>
        <fieldset>
          <legend className="mb-1 font-medium">Senders</legend>
          <div className="space-y-2">
            {[...brand.senders, { name: "", address: "" }].map((sender, index) => (
              <div key={sender.address || "new"} className="grid grid-cols-2 gap-2">
                <Input
                  name="sender_name"
                  aria-label={`Name of sender ${index + 1}`}
                  placeholder="Name"
                  defaultValue={sender.name}
                />
                <Input
                  name="sender_address"
                  aria-label={`Address of sender ${index + 1}`}
                  placeholder="letters@…"
                  defaultValue={sender.address}
                />
              </div>
            ))}
          </div>
        </fieldset>
        {fetcher.data?.problem && <Problem>{fetcher.data.problem}</Problem>}
        <div className="flex items-center gap-3">
          <Button type="submit" kind="primary">
            Save
          </Button>
          {fetcher.data?.result && fetcher.state === "idle" && <span className="text-green">Saved</span>}
        </div>
      </fetcher.Form>
    </Page>
  );
}
