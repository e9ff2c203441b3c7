/** A composer without a screen, for tests: its store, what can be done in it, and what it says. */

import { type Email, THEMES } from "~/core/email";
import { SAMPLE_BRAND, sampleContact } from "~/core/render/sample";
import { Actions } from "./actions";
import type { Stage } from "./stage";
import { type Composer, createComposer } from "./store";

/** No table: nothing stands on it. */
const NO_STAGE: Stage = { shows: () => false, wordsOf: () => [], reveal: () => {}, focus: () => {} };

export interface TestComposer {
  store: Composer;
  actions: Actions;
  complaints: string[];
  spoken: string[];
}

export function openComposer(
  email: Email,
  lock: Parameters<typeof createComposer>[0]["lock"] = null,
): TestComposer {
  const complaints: string[] = [];
  const spoken: string[] = [];
  const complain = (text: string) => void complaints.push(text);
  const reader = sampleContact(1, { zone: "cool" });
  const store = createComposer(
    {
      facts: {
        campaign: "c",
        tags: {},
        brand: SAMPLE_BRAND,
        themes: THEMES,
        ownThemes: [],
        words: {
          fields: [],
          lists: [],
          segments: [],
          behaviour: { campaigns: [], products: [], categories: [], links: [] },
          today: "2026-11-25",
          zone: "UTC",
        },
        sources: [],
        picks: new Map(),
        audience: { today: "2026-11-25", segments: new Map() },
        lacking: {},
      },
      pictures: [],
      email,
      revision: 1,
      savedAt: "2026-11-25T10:00:00.000Z",
      reader,
      editions: [
        { key: "a", also: [], count: 2, sample: reader },
        { key: "b", also: [], count: 1, sample: sampleContact(2, { zone: "mild" }) },
      ],
      audienceSize: 3,
      trouble: null,
      lock,
    },
    complain,
  );
  const actions = new Actions(store, NO_STAGE, (text) => void spoken.push(text), complain);
  return { store, actions, complaints, spoken };
}
