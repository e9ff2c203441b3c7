import type { ReactNode } from "react";
import type { Border, Padding } from "~/core/email";
import { type DateProperty, mayBeMissing, type Property } from "~/core/properties";
import { Choose } from "../../ui/choose";
import { Area, Choice, Input, Labelled, Line } from "../../ui/form";
import { Switch } from "../../ui/switch";
import { TypedArea } from "../../ui/typed-field";
import { DayField } from "../../ui/when-field";
import { useBehind } from "../controls/ground";
import { HrefLine } from "../controls/href";
import { PictureFields } from "../controls/picture";
import { useSides } from "../controls/sides";
import { TimeLine, ZoneLine } from "../controls/when";
import { useComposer } from "../state/store";
import { useTheme } from "../state/theme";
import { KeyControl } from "./keys";
import { BorderLines, ColorLine, isLong, NumberLine, PaddingLines, type Settable, useSet } from "./lines";
import { ListControl } from "./list";

type Of<Kind extends Property["kind"]> = Extract<Property, { kind: Kind }>;

interface Controlled<P extends Property = Property> {
  node: Settable;
  /** Where the property stands in it. */
  at: string;
  property: P;
}

/** What a change of a property is called in the history where its declaration does not say. */
function historyOf({ kind, history, label }: Property): string {
  if (history !== undefined) return history;
  if (kind === "address") return "Changing the link";
  return kind === "text" ? `Changing “${label}”` : "Changing the look";
}

/** A property's value and how it is changed. */
function useProperty<T>({ node, at, property }: Controlled): [T, (value: T | undefined) => void] {
  const set = useSet(node.id);
  return [node[at] as T, (value) => set({ [at]: value }, historyOf(property))];
}

/** What belongs to one property, so that it is found by its name. */
export function PropertyBox({ at, children }: { at: string; children: ReactNode }) {
  return (
    <div data-property={at} className="space-y-2.5 empty:hidden">
      {children}
    </div>
  );
}

/** The control of one property, by its kind. */
export function PropertyControl(of: Controlled) {
  const { property } = of;
  return (
    <PropertyBox at={of.at}>
      <ByKind {...of} />
      {property.hint && <p className="text-xs text-ink-soft">{property.hint}</p>}
    </PropertyBox>
  );
}

function ByKind({ node, at, property }: Controlled) {
  const of = { node, at };
  switch (property.kind) {
    case "number":
      return <NumberControl {...of} property={property} />;
    case "choice":
      return <ChoiceControl {...of} property={property} />;
    case "align":
      return <AlignControl {...of} property={property} />;
    case "switch":
      return <SwitchControl {...of} property={property} />;
    case "colour":
      return <ColourControl {...of} property={property} />;
    case "border":
      return <BorderControl {...of} property={property} />;
    case "space":
      return <SpaceControl {...of} property={property} />;
    case "text":
      return <TextControl {...of} property={property} />;
    case "address":
      return <AddressControl {...of} property={property} />;
    case "picture":
      return <PictureControl {...of} property={property} />;
    case "day":
    case "moment":
    case "zone":
      return <DateControl {...of} property={property} />;
    case "key":
      return <KeyControl {...of} property={property} />;
    case "list":
      return <ListControl {...of} property={property} />;
    // Words are written where they stand.
    case "line":
    case "prose":
    case "drawing":
    case "each":
    case "held":
      return null;
  }
}

function NumberControl(of: Controlled<Of<"number">>) {
  const [value, change] = useProperty<number | undefined>(of);
  const { label, min, max, offered = max, unit, own, theme } = of.property;
  const whole = useTheme();
  const said = theme?.(whole, of.node);
  const missing = mayBeMissing(of.property);
  const line = (
    <NumberLine
      label={label}
      unit={unit}
      value={value}
      theme={said}
      min={min}
      max={offered}
      onChange={(next) => (next !== undefined || missing) && change(next)}
    />
  );
  if (!own) return line;
  return (
    <>
      <Switch checked={value !== undefined} onChange={(on) => change(on ? own.start : undefined)}>
        {own.words}
      </Switch>
      {value !== undefined && line}
    </>
  );
}

/** What stands for a value that is missing. */
const NONE = "none of them";

function ChoiceControl(of: Controlled<Of<"choice">>) {
  const [value, change] = useProperty<string | number | undefined>(of);
  const { label, spoken = label, options, none, usual } = of.property;
  const all = [
    ...(none === undefined ? [] : [{ value: NONE, label: none }]),
    ...options.map((one) => ({ value: String(one.value), label: one.label })),
  ];
  const shown = {
    label: spoken,
    value: String(value ?? usual ?? NONE),
    onChange(next: string) {
      const chosen = options.find((one) => String(one.value) === next)?.value;
      change(chosen === usual ? undefined : chosen);
    },
    options: all,
  };
  return <Line label={label}>{isLong(all) ? <Choose {...shown} /> : <Choice {...shown} />}</Line>;
}

function AlignControl(of: Controlled<Of<"align">>) {
  const [value, change] = useProperty<"left" | "center" | "right" | undefined>(of);
  const sides = useSides();
  const missing = mayBeMissing(of.property);
  const { label } = of.property;
  return (
    <Line label={label}>
      <Choice
        label={label}
        value={value ?? "left"}
        onChange={(next) => change(missing && next === "left" ? undefined : next)}
        options={sides}
      />
    </Line>
  );
}

function SwitchControl(of: Controlled<Of<"switch">>) {
  const [value, change] = useProperty<boolean | undefined>(of);
  return (
    <Switch
      checked={value ?? false}
      onChange={(on) => change(on || (mayBeMissing(of.property) ? undefined : false))}
    >
      {of.property.label}
    </Switch>
  );
}

function ColourControl(of: Controlled<Of<"colour">>) {
  const { on } = of.property;
  return on ? <ColourOn {...of} on={on} /> : <Colour {...of} />;
}

/** A colour of words, with whether they can be read. */
function ColourOn({ on, ...of }: Controlled<Of<"colour">> & { on: NonNullable<Of<"colour">["on"]> }) {
  return <Colour {...of} against={useBehind(of.node, on)} />;
}

function Colour({ against, ...of }: Controlled<Of<"colour">> & { against?: ReturnType<typeof useBehind> }) {
  const [value, change] = useProperty<string | undefined>(of);
  const theme = useTheme();
  const said = of.property.theme?.(theme, of.node);
  return (
    <ColorLine
      label={of.property.label}
      fills={of.property.role}
      // One that is always the block's own has nothing to go back to.
      value={said === undefined ? undefined : value}
      theme={said ?? value ?? "#000000"}
      against={against}
      onChange={(next) => (next !== undefined || said !== undefined) && change(next)}
    />
  );
}

function BorderControl(of: Controlled<Of<"border">>) {
  const [value, change] = useProperty<Border | undefined>(of);
  return <BorderLines value={value} color={of.property.theme(useTheme(), of.node)} onChange={change} />;
}

function SpaceControl(of: Controlled<Of<"space">>) {
  const [value, change] = useProperty<Padding | undefined>(of);
  return <PaddingLines value={value} theme={of.property.theme(useTheme(), of.node)} onChange={change} />;
}

function TextControl(of: Controlled<Of<"text">>) {
  const [value = "", change] = useProperty<string | undefined>(of);
  const data = useComposer((state) => state.facts);
  const { label, most, least, long, typed, placeholder } = of.property;
  const missing = mayBeMissing(of.property);
  const write = (next: string) => {
    if (next.trim().length >= least) change(next === "" && missing ? undefined : next);
  };
  if (typed)
    return (
      <TypedArea
        aria-label={`${label} of the block`}
        data={data}
        spellCheck={false}
        className="h-72 font-mono text-xs/5"
        value={value}
        maxLength={most}
        onChange={write}
      />
    );
  if (long)
    return (
      <Labelled label={label}>
        <Area
          className="h-24 py-1.5"
          maxLength={most}
          value={value}
          onChange={(event) => write(event.target.value)}
        />
      </Labelled>
    );
  return (
    <Line label={label}>
      <Input
        value={value}
        maxLength={most}
        placeholder={placeholder}
        onChange={(event) => write(event.target.value)}
      />
    </Line>
  );
}

function AddressControl(of: Controlled<Of<"address">>) {
  const [value = "", change] = useProperty<string | undefined>(of);
  const missing = mayBeMissing(of.property);
  return (
    <HrefLine
      href={value}
      empty={of.property.placeholder}
      onChange={(href) => change(href === "" && missing ? undefined : href)}
    />
  );
}

/** A picture with what stands beside it: its words, and where it leads. */
function PictureControl({ node, property: { beside } }: Controlled<Of<"picture">>) {
  const set = useSet(node.id);
  return (
    <PictureFields
      picture={node as Settable & { src: string }}
      onChange={set}
      said={beside.alt !== undefined}
      asked={beside.alt === "asked"}
      decorates={beside.decorative === true}
      leads={beside.href === true}
    />
  );
}

function DateControl(of: Controlled<DateProperty>) {
  const [value = "", change] = useProperty<string | undefined>(of);
  const { kind, label } = of.property;
  if (kind === "moment") return <TimeLine label={label} value={value} onChange={change} />;
  if (kind === "zone") return <ZoneLine value={value} onChange={change} />;
  return (
    <Line label={label}>
      <DayField label={label} value={value} onChange={(day) => change(day || undefined)} />
    </Line>
  );
}
