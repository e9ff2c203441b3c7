import { useEffect } from "react";
import { useRevalidator, useRouteLoaderData } from "react-router";
import type { loader } from "../../routes/campaign";
import type { Composer } from "../state/store";

/** The bar of a template says how many campaigns lack its changes: it is asked anew once changes have been saved. */
export function useFreshBar(store: Composer): void {
  const bar = useRouteLoaderData<typeof loader>("routes/campaign");
  const { revalidate } = useRevalidator();
  const template = bar?.kind === "template";
  useEffect(() => {
    if (!template) return;
    let later: ReturnType<typeof setTimeout>;
    const unsubscribe = store.subscribe(({ saving }, before) => {
      if (saving === before.saving || saving.state !== "saved") return;
      clearTimeout(later);
      later = setTimeout(() => void revalidate(), 800);
    });
    return () => {
      clearTimeout(later);
      unsubscribe();
    };
  }, [store, template, revalidate]);
}
