import { X } from "lucide-react";
import { useState } from "react";
import { shows, type TypedBlock } from "~/core/blocks";
import type { Item } from "~/core/items";
import { ChoosePicture } from "../../../pictures/choose-picture";
import { ItemPicture } from "../../../sources/item-row";
import { Button, IconButton } from "../../../ui/button";
import { Input, Line } from "../../../ui/form";
import { DayField } from "../../../ui/when-field";
import { HrefInput, HrefProblem } from "../../controls/href";
import { knowPictures } from "../../controls/pictures";
import { useComposerStore } from "../../state/store";

/** What an item has that comes from no source, beside its words: its picture, where it leads, where and when it takes place. */
export function HandItem({
  block,
  item,
  named,
  onChange,
}: {
  block: TypedBlock<"items">;
  item: Item;
  named: string;
  onChange(item: Item): void;
}) {
  const store = useComposerStore();
  const [choosing, setChoosing] = useState(false);
  const change = (part: Partial<Item>) => onChange({ ...item, ...part });
  return (
    <>
      {shows(block, "picture") && (
        <div className="flex items-center gap-2">
          <ItemPicture item={item} className="h-9 w-12" />
          <Button
            className="grow"
            aria-label={
              item.picture ? `Choose another picture for ${named}` : `Choose a picture for ${named}`
            }
            onClick={() => setChoosing(true)}
          >
            {item.picture ? "Choose another" : "Choose a picture"}
          </Button>
          {item.picture && (
            <IconButton
              icon={X}
              label={`Take the picture from ${named}`}
              className="size-8!"
              onClick={() => change({ picture: null, size: undefined })}
            />
          )}
        </div>
      )}
      <HrefInput
        aria-label={`Where ${named} leads`}
        placeholder="Leads to: search, or https://"
        value={item.link}
        onChange={(link) => change({ link })}
      />
      <HrefProblem href={item.link} />
      {shows(block, "date") && (
        <Line label="Day">
          <DayField
            label={`Day of ${named}`}
            value={item.date ?? ""}
            onChange={(day) => change({ date: day || null })}
          />
        </Line>
      )}
      {shows(block, "place") && (
        <Line label="Place">
          <Input
            aria-label={`Place of ${named}`}
            maxLength={300}
            value={item.place ?? ""}
            onChange={(event) => change({ place: event.target.value || undefined })}
          />
        </Line>
      )}
      <ChoosePicture
        open={choosing}
        onClose={() => setChoosing(false)}
        onChoose={(chosen) => {
          knowPictures(store, [chosen]);
          change({ picture: chosen.path, size: { width: chosen.width, height: chosen.height } });
        }}
      />
    </>
  );
}
