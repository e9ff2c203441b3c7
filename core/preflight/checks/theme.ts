import type { Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

function themeGone(email: Email, { theme }: Circumstances): Finding[] {
  if (theme.id === email.theme) return [];
  const text = `The theme of this email is not here: it goes out in “${theme.name}”. Choose another in the composer.`;
  return [{ weight: "look", text }];
}

export const themeCheck: Check = {
  name: "theme",
  group: "reading",
  label: "the theme",
  why: "It goes out looking different from what was designed.",
  design: themeGone,
};
