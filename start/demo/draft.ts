/**
 * The letter that is being written: in three languages, from the reader's branch, with a code and wording that differs.
 * A few things in it are wrong for some of its readers on purpose, one of each kind that is looked for: a tag without
 * fallback, a person without portrait, codes that run short, a text that nobody translated and one that changed since.
 */
import type { Rule } from "~/core/audience";
import {
  type Block,
  type Column,
  type Email,
  type Inline,
  mapEmail,
  paragraphOf,
  type RichDoc,
  type SaidThere,
  type Section,
  type Translations,
} from "~/core/email";
import { kit, words } from "~/core/templates";
import { unitKey, unitsOf } from "~/core/translation";
import { type Kit, sowingLetter } from "./emails";

const is = (field: string, value: string): Rule => ({ kind: "field", field, op: "is", value });
const MEMBERS: Rule = { kind: "segment", segment: "members", in: true };
const BALCONY = is("plot", "balcony");

const either = (when: Rule, one: string, otherwise: string): Inline => ({
  type: "either",
  attrs: { cases: [{ when, words: words(one) }], otherwise: words(otherwise) },
});
const prose = (...lines: (string | Inline[])[]): RichDoc => ({
  type: "doc",
  content: lines.map((line) => paragraphOf(...(typeof line === "string" ? words(line) : line))),
});

/** What each language says of something; where one is missing, nobody has translated it yet. */
interface Said {
  en: SaidThere;
  fr?: SaidThere;
  de?: SaidThere;
  /** What the German is a translation of, where the English went on. */
  was?: SaidThere;
}
const line = (en: string, fr: string | undefined, de: string): Said => ({
  en: words(en),
  ...(fr !== undefined && { fr: words(fr) }),
  de: words(de),
});
const text = (en: string, fr: string | undefined, de: string): Said => ({
  en: prose(en),
  ...(fr !== undefined && { fr: prose(fr) }),
  de: prose(de),
});
const plain = (en: string, fr: string, de: string): Said => ({ en, fr, de });

const SUBJECT: Said = {
  en: [...words("{first_name|Hello}, what to sow this month"), either(MEMBERS, ", with a tenth off", "")],
  fr: [
    ...words("{first_name|Bonjour}, que semer ce mois-ci"),
    either(MEMBERS, ", à dix pour cent de moins", ""),
  ],
  de: [...words("{first_name|Hallo}, was jetzt gesät wird"), either(MEMBERS, ", zehn Prozent günstiger", "")],
};
const BRANCH: Said = {
  en: prose([
    ...words("Outdoors sow {lookup.first_outdoors|when the soil is warm}, "),
    either(BALCONY, "in pots against a wall", "in rows a hand apart"),
    ...words(". Ask us at {branch.name|any branch}."),
  ]),
  fr: prose([
    ...words("Semez dehors "),
    either(BALCONY, "en pots contre un mur", "en lignes espacées d’une main"),
    ...words(". Demandez-nous à {branch.name|n’importe quelle succursale}."),
  ]),
  de: prose([
    ...words("Draußen säen Sie "),
    either(BALCONY, "in Töpfen an der Wand", "in Reihen, eine Hand breit auseinander"),
    ...words(". Fragen Sie uns in {branch.name|jeder Filiale}."),
  ]),
};
const CODE: Said = text(
  "Your code for the shop: **it is yours alone.** {code.seed_tenth|Ask for it at the till}",
  "Votre code pour la boutique : **il n’est qu’à vous.** {code.seed_tenth|Demandez-le à la caisse}",
  "Ihr Code für den Shop: **Er gehört nur Ihnen.** {code.seed_tenth|Fragen Sie an der Kasse}",
);
const lastOrder = (before: string, after: string): Inline[] => [
  ...words(before),
  { type: "mergeTag", attrs: { field: "last_order", fallback: "", format: "longDate" } },
  ...words(after),
];
const LAST: Said = {
  en: prose(
    lastOrder(
      "Your last order was on ",
      ". A bag of bulbs goes with the next: {code.bulb_gift|while there are any}.",
    ),
  ),
  fr: prose(
    lastOrder(
      "Votre dernière commande date du ",
      ". Un sachet de bulbes avec la prochaine : {code.bulb_gift|tant qu’il y en a}.",
    ),
  ),
  de: prose(
    lastOrder(
      "Ihre letzte Bestellung war am ",
      ". Zur nächsten gibt es Zwiebeln: {code.bulb_gift|solange es welche gibt}.",
    ),
  ),
};

const SAID: readonly Said[] = [
  SUBJECT,
  line(
    "Start these on a windowsill, and keep the fleece handy.",
    "Commencez-les sur un rebord de fenêtre, et gardez le voile à portée de main.",
    "Ziehen Sie diese auf der Fensterbank vor, und halten Sie das Vlies bereit.",
  ),
  text("The monthly letter", "La lettre du mois", "Der Monatsbrief"),
  plain(
    "Carrot, parsnip and beetroot in a row under a low sun",
    "Carotte, panais et betterave en ligne sous un soleil bas",
    "Möhre, Pastinake und Rote Bete in einer Reihe unter tiefer Sonne",
  ),
  line(
    "Good morning, {first_name|gardener}. Hold your beans.",
    "Bonjour, {first_name|cher jardinier}. Patience avec les haricots.",
    "Guten Morgen, {first_name|liebe Gärtnerin, lieber Gärtner}. Warten Sie mit den Bohnen.",
  ),
  text(
    "{first_name|Friend}, nights in the **cool zone** will touch freezing for weeks yet. Sow indoors now and plant out when the soil is warm.",
    "{first_name|Cher ami}, en **zone fraîche** les nuits frôleront le gel pendant des semaines encore. Semez à l’intérieur et repiquez quand la terre est chaude.",
    "{first_name|Liebe Freunde}, in der **kühlen Zone** wird es nachts noch wochenlang frieren. Säen Sie drinnen und pflanzen Sie aus, wenn der Boden warm ist.",
  ),
  text(
    "{first_name|Friend}, in the **mild zone** you can sow peas and broad beans outside this week. Keep the runners in.",
    "{first_name|Cher ami}, en **zone douce** vous pouvez semer dehors pois et fèves cette semaine. Gardez les haricots à rames à l’intérieur.",
    "{first_name|Liebe Freunde}, in der **milden Zone** können Erbsen und Dicke Bohnen diese Woche nach draußen. Die Stangenbohnen bleiben drinnen.",
  ),
  text(
    "{first_name|Friend}, lucky you: in the **warm zone** almost everything can go straight into the ground now.",
    "{first_name|Cher ami}, quelle chance : en **zone chaude** presque tout peut aller en pleine terre maintenant.",
    "{first_name|Liebe Freunde}, Sie Glückliche: In der **warmen Zone** kann jetzt fast alles gleich ins Beet.",
  ),
  line("See what to sow", "Voir que semer", "Zur Aussaat"),
  plain("Two ripe tomatoes", "Deux tomates mûres", "Zwei reife Tomaten"),
  line("Tomatoes", "Tomates", "Tomaten"),
  text(
    "Copperhead sets fruit where others sulk.",
    "Copperhead donne des fruits là où d’autres boudent.",
    "Copperhead trägt, wo andere schmollen.",
  ),
  plain("Three leeks", "Trois poireaux", "Drei Stangen Lauch"),
  line("Leeks", "Poireaux", "Lauch"),
  text("Long Tom stands all winter.", "Long Tom tient tout l’hiver.", "Long Tom steht den ganzen Winter."),
  plain("Sweet peas in three colours", "Pois de senteur en trois couleurs", "Duftwicken in drei Farben"),
  line("Sweet peas", "Pois de senteur", "Duftwicken"),
  text(
    "A mix for picking by the armful.",
    "Un mélange à cueillir à pleines brassées.",
    "Eine Mischung zum Pflücken, ganze Arme voll.",
  ),
  {
    ...line(
      "For members: a tenth off all seed",
      "Pour nos membres : dix pour cent sur toutes les graines",
      "Für Mitglieder: fünf Prozent auf alles Saatgut",
    ),
    was: words("For members: five per cent off all seed"),
  },
  text(
    "Show your card at {branch.name|any branch}, or use it in the shop.",
    "Montrez votre carte à {branch.name|n’importe quelle succursale}, ou utilisez-la en boutique.",
    "Zeigen Sie Ihre Karte in {branch.name|jeder Filiale}, oder nutzen Sie sie im Shop.",
  ),
  CODE,
  line("No garden? A balcony will do", undefined, "Kein Garten? Ein Balkon genügt"),
  text(
    "Salads, herbs and one tomato: a summer’s worth in four pots.",
    "Salades, herbes et une tomate : tout un été en quatre pots.",
    "Salate, Kräuter und eine Tomate: ein ganzer Sommer in vier Töpfen.",
  ),
  LAST,
  plain("A seedling in a pot", "Un semis en pot", "Ein Sämling im Topf"),
  BRANCH,
  plain(
    "{$lookup.branch_contact} of Tansy Row",
    "{$lookup.branch_contact} de Tansy Row",
    "{$lookup.branch_contact} von Tansy Row",
  ),
  line("From the journal", "Dans notre journal", "Aus dem Journal"),
  plain("Read on", "Lire la suite", "Weiterlesen"),
  {
    en: prose("You get this because you asked for letters from {brand.name|}."),
    fr: prose("Vous recevez ceci parce que vous avez demandé les lettres de {brand.name|}."),
    de: prose("Sie bekommen dies, weil Sie um die Briefe von {brand.name|} gebeten haben."),
  },
  plain("Unsubscribe", "Se désabonner", "Abmelden"),
];

const keyOf = (said: SaidThere) => JSON.stringify(said);

/** The same design with what each language says of it. */
function spoken(email: Email): Email {
  const known = new Map(SAID.map((said) => [keyOf(said.en), said]));
  const of = (block: string | null): Translations | undefined => {
    const all: Translations = block === null ? { fr: {}, de: {} } : {};
    for (const unit of unitsOf(email)) {
      const said = known.get(keyOf(unit.source));
      if (unit.block !== block || !said) continue;
      for (const language of ["fr", "de"] as const) {
        const value = said[language];
        if (value === undefined) continue;
        const basis = language === "de" ? (said.was ?? said.en) : said.en;
        all[language] = { ...all[language], [unitKey(unit)]: { value, of: basis } };
      }
    }
    return Object.keys(all).length > 0 ? all : undefined;
  };
  const whole = mapEmail(email, (node, kind) => {
    const translations = kind === "block" ? of(node.id) : undefined;
    return translations ? ({ ...node, translations } as Block) : node;
  });
  return { ...whole, translations: of(null) };
}

/** The draft of the monthly letter. */
export function draftLetter(world: Kit): Email {
  const b = kit({ id: world.newId, find: () => ({ src: "", natural: { width: 320, height: 320 } }) });
  const block = (content: SaidThere): Block => ({ ...b.text(""), content });
  const added: [title: string, block: Block][] = [
    ["Show your card at", block(CODE.en)],
    ["Salads, herbs and one tomato", block(LAST.en)],
  ];
  const email = mapEmail(sowingLetter(world), (node, kind) => {
    if (kind === "block" && (node as Block).type === "button")
      return { ...node, href: "https://tansyrow.example/sow-now?branch={$branch else=|none|}" };
    if (kind !== "column") return node;
    const more = (one: Block) =>
      added.flatMap(([title, block]) => (JSON.stringify(one).includes(title) ? [block] : []));
    const { blocks, ...column } = node as Column;
    return { ...column, blocks: blocks.flatMap((one) => [one, ...more(one)]) };
  });
  const portrait: Block = {
    ...b.picture("", "{$lookup.branch_contact} of Tansy Row"),
    src: "{$lookup.branch_contact.portrait}",
    width: 50,
    radius: 60,
  };
  const branch: Section = {
    ...b.section([b.row([[portrait], [block(BRANCH.en)]], { widths: [25, 75], valign: "middle" })]),
    name: "From your branch",
  };
  return spoken({
    ...email,
    sections: email.sections.toSpliced(-2, 0, branch),
    envelope: {
      ...email.envelope,
      subject: SUBJECT.en as Inline[],
      sender: {
        name: words("{lookup.branch_contact|}"),
        address: "{$lookup.branch_contact.address}",
      },
    },
  });
}
