/** Links that go unprotected. */
import { linksOf, setLinks } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";

function design(email: Email): Finding[] {
  const plain = linksOf(email).filter(({ href, fixed }) => fixed === null && /^http:\/\//i.test(href));
  return plain.map((link): Finding => {
    const href = link.href.replace(/^http:/i, "https:");
    return {
      weight: "could",
      text: `A link leads to ${link.href}, which is not protected. Lead to the same address with https, if the site has it.`,
      block: link.block,
      mend: mendBy("Lead to https", email, setLinks([{ link, href }])),
    };
  });
}

export const linksPlainCheck: Check = {
  name: "links-plain",
  group: "content",
  label: "links that are protected",
  why: "Browsers warn before they open an address without https, and some mail programs do so at once.",
  spoken: true,
  design,
};
