import { Feather } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import { replacePicture } from "~/core/compose";
import { newStep, type PictureStep, variantWidth } from "~/core/pictures";
import type { PictureWeight, Weights } from "~/server/pictures/weights";
import { SideBySide, type Weighed } from "../../pictures/editor/side-by-side";
import { ask, resultOf, tell } from "../../requests";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Problem } from "../../ui/form";
import { useNotify } from "../../ui/notices";
import { Progress } from "../../ui/progress";
import { Slider } from "../../ui/slider";
import { counted, kilobytes } from "../../ui/time";
import { knowPictures } from "../controls/pictures";
import { useComposer, useComposerStore } from "../state/store";

/** A lighter picture that is offered. */
interface Offer {
  picture: NonNullable<PictureWeight["picture"]>;
  steps: PictureStep[];
  before: Weighed;
  after: Weighed;
}

const QUALITY = 60;

/** As wide as it is fetched when it is shown so wide. */
const fetched = (shown: number | null) =>
  shown === null ? undefined : (variantWidth(shown, 1400) ?? undefined);

/** A picture as it would be with fewer bytes; null when that saves nothing. */
async function lighter(
  { picture, shown, bytes, type }: PictureWeight,
  quality: number,
): Promise<Offer | null> {
  if (!picture || bytes === null || type === null) return null;
  const at = { picture: picture.id };
  const detail = resultOf(await ask("/library/:picture/detail", { at }));
  const steps = [
    ...detail.steps.filter(({ kind }) => kind !== "lighter"),
    { ...newStep("lighter", crypto.randomUUID().slice(0, 8)), quality },
  ];
  const width = fetched(shown);
  const made = resultOf(await tell("/library/:picture/detail", { intent: "trial", steps, width }, { at }));
  if (made.bytes >= bytes) return null;
  const before = {
    src: width && width < detail.width ? `${picture.src}/${width}` : picture.src,
    type,
    bytes,
  };
  return { picture, steps, before, after: { ...made, src: `data:${made.type};base64,${made.data}` } };
}

/** What the pictures of this email weigh, and lighter ones for those that are heavy. */
export default function WeightsDialog() {
  const store = useComposerStore();
  const set = useComposer((state) => state.set);
  const campaign = useComposer((state) => state.facts.campaign);
  const lock = useComposer((state) => state.lock);
  const notify = useNotify();
  const [weights, setWeights] = useState<Weights | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [offers, setOffers] = useState<Offer[] | null>(null);
  const [working, setWorking] = useState<{ done: number; of: number } | null>(null);
  const [chosen, setChosen] = useState<PictureWeight[]>([]);
  const [quality, setQuality] = useState(QUALITY);
  const load = useCallback(() => {
    void ask("/campaigns/:campaign/weights", { at: { campaign } }).then(({ problem: why, result }) => {
      if (result) setWeights(result);
      setProblem(why);
    });
  }, [campaign]);
  useEffect(load, [load]);
  const look = async (pictures: PictureWeight[], at: number) => {
    setChosen(pictures);
    setProblem(null);
    setWorking({ done: 0, of: pictures.length });
    try {
      const found: Offer[] = [];
      for (const [index, one] of pictures.entries()) {
        const offer = await lighter(one, at);
        if (offer) found.push(offer);
        setWorking({ done: index + 1, of: pictures.length });
      }
      setOffers(found);
    } catch (error) {
      setProblem((error as Error).message);
    }
    setWorking(null);
  };
  const take = async () => {
    if (!offers) return;
    setWorking({ done: 0, of: offers.length });
    let reached = 0;
    try {
      for (const [index, { picture, steps }] of offers.entries()) {
        const saved = resultOf(
          await tell(
            "/library/:picture/detail",
            { intent: "over", steps, except: campaign },
            { at: { picture: picture.id } },
          ),
        );
        reached += saved.reached.length;
        const { path: src, width, height } = saved.picture;
        knowPictures(store, [saved.picture]);
        store
          .getState()
          .apply(replacePicture(new Set(saved.before), { src, width, height }), "Making pictures lighter");
        setWorking({ done: index + 1, of: offers.length });
      }
      notify({
        text: `${counted(offers.length, "picture")} lighter${reached > 0 ? `, in ${counted(reached, "other place")} too` : ""}. Each can be taken back in its editor.`,
      });
      set({ dialog: null });
    } catch (error) {
      setProblem((error as Error).message);
    }
    setWorking(null);
  };
  const heavy = weights?.pictures.filter((one) => one.picture && (one.bytes ?? 0) > weights.light.each) ?? [];
  const own = weights?.pictures.filter((one) => one.picture) ?? [];
  const saved = offers?.reduce((sum, { before, after }) => sum + before.bytes - after.bytes, 0) ?? 0;
  return (
    <Dialog
      open
      onClose={() => set({ dialog: null })}
      title="Pictures and their weight"
      about="As most readers fetch them: at twice the width they are shown in."
      size="large"
    >
      {problem && <Problem>{problem}</Problem>}
      {working && (
        <div className="my-3 space-y-1.5" role="status">
          <p>
            {working.done} of {working.of}…
          </p>
          <Progress share={working.of === 0 ? null : working.done / working.of} label="Worked out so far" />
        </div>
      )}
      {offers ? (
        <div className="space-y-5">
          {offers.length === 0 && <p>None of them gets lighter by that: they are as light as they can be.</p>}
          {chosen.length === 1 && (
            <div className="max-w-72">
              <Slider
                label="Quality"
                unit="%"
                min={20}
                max={95}
                rest={QUALITY}
                value={quality}
                onChange={setQuality}
              />
              <Button className="mt-2" disabled={working !== null} onClick={() => void look(chosen, quality)}>
                Look again
              </Button>
            </div>
          )}
          {offers.map(({ picture, before, after }) => (
            <section key={picture.id} aria-label={picture.name}>
              <h3 className="mb-1.5 font-semibold">{picture.name}</h3>
              <SideBySide before={before} after={after} />
            </section>
          ))}
          <div className="sticky -bottom-6 -mx-6 flex items-center justify-end gap-2 border-t bg-paper px-6 py-3">
            {offers.length > 0 && <p className="mr-auto text-green">{kilobytes(saved)} less in all</p>}
            <Button onClick={() => setOffers(null)}>Back</Button>
            {offers.length > 0 && (
              <Button kind="primary" disabled={working !== null || lock !== null} onClick={() => void take()}>
                Take {offers.length === 1 ? "the lighter one" : `the ${offers.length} lighter ones`}
              </Button>
            )}
          </div>
        </div>
      ) : weights ? (
        <>
          <Summary weights={weights} />
          <div className="my-3 flex gap-2">
            <Button
              disabled={working !== null || own.length === 0 || lock !== null}
              onClick={() => void look(heavy.length > 0 ? heavy : own, QUALITY)}
            >
              <Feather className="size-4" aria-hidden />
              {heavy.length > 0
                ? `Make ${counted(heavy.length, "heavy picture")} lighter…`
                : "Make all lighter…"}
            </Button>
          </div>
          <ul className="divide-y border-y">
            {weights.pictures.map((one) => (
              <li key={one.address} className="flex items-center gap-3 py-1.5">
                <img
                  src={one.address}
                  alt=""
                  loading="lazy"
                  className="size-9 shrink-0 rounded-sm bg-table object-contain"
                />
                <span className="min-w-0 grow truncate">{one.name}</span>
                <span className="text-ink-soft">
                  {one.shown === null ? "behind content" : `${one.shown} px`}
                </span>
                <span className="w-12 text-ink-soft">{one.type?.replace("image/", "").toUpperCase()}</span>
                <span
                  className={`w-20 text-right ${one.bytes !== null && one.bytes > weights.light.each ? "font-semibold text-amber" : ""}`}
                >
                  {one.bytes === null ? "elsewhere" : kilobytes(one.bytes)}
                </span>
                <span className="w-32 text-right">
                  {one.picture && (
                    <Button
                      kind="quiet"
                      disabled={working !== null || lock !== null}
                      onClick={() => void look([one], quality)}
                    >
                      Make lighter…
                    </Button>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        !problem && <p className="text-ink-soft">Weighing them…</p>
      )}
    </Dialog>
  );
}

function Summary({ weights }: { weights: Weights }) {
  const { pictures, total, light } = weights;
  if (pictures.length === 0) return <p>This email fetches no pictures.</p>;
  const elsewhere = pictures.filter((one) => one.bytes === null).length;
  const much = total > light.all;
  return (
    <p className={much ? "text-amber" : undefined}>
      <strong>{kilobytes(total)}</strong> in {counted(pictures.length - elsewhere, "picture")}
      {much
        ? `, over the ${kilobytes(light.all)} that load well on phones.`
        : `, under the ${kilobytes(light.all)} that load well on phones.`}
      {elsewhere > 0 &&
        ` ${counted(elsewhere, "more lies", "more lie")} elsewhere and ${elsewhere === 1 ? "was" : "were"} not weighed.`}
    </p>
  );
}
