import { useEffect, useState } from "react";
import type { About } from "~/core/assistant";
import { type Answer, ask } from "../requests";

/** So long one answer about who helps is believed, in milliseconds. */
const BELIEVED = 60_000;
let asked: { at: number; answer: Promise<Answer<About>> } | null = null;

/** Another one may be there now. */
export function forgetWho(): void {
  asked = null;
}

function whoAssists(): Promise<Answer<About>> {
  if (asked && Date.now() - asked.at < BELIEVED) return asked.answer;
  const answer = ask("/assist");
  asked = { at: Date.now(), answer };
  void answer.then(({ problem }) => problem !== null && forgetWho());
  return answer;
}

/** Who helps with writing here, or why nobody does; null until it is known. */
export function useWhoAssists(): Answer<About> | null {
  const [who, setWho] = useState<Answer<About> | null>(null);
  useEffect(() => {
    let gone = false;
    void whoAssists().then((answer) => !gone && setWho(answer));
    return () => {
      gone = true;
    };
  }, []);
  return who;
}
