/** What the demo nursery sells: about ninety products, the same every time. */
export interface Product {
  sku: string;
  title: string;
  text: string;
  category: readonly string[];
  /** In pounds. */
  price: number;
  /** What it costs now, where that is less. */
  sale: number | null;
  stock: number;
  picture: string | null;
  /** When it is sown or planted, as months. */
  months: string;
  /** Where it grows. */
  zones: readonly string[];
  /** Days since it came into the shop. */
  age: number;
}

const ZONES = { all: ["cool", "mild", "warm"], gentle: ["mild", "warm"] } as const;

/** Title, category, price, picture, when it is sown or planted, where it grows, and what is said of it. */
const KINDS = `
Runner bean “Lantern Red” | Seeds > Vegetables > Beans | 3.2 | beans | May–June | all | Climbs to eight feet and crops until the first frost.
Dwarf bean “Little Quay” | Seeds > Vegetables > Beans | 2.9 | beans | May–July | all | Needs no stakes; for pots and the front of a bed.
Broad bean “Fen Giant” | Seeds > Vegetables > Beans | 3.1 | beans | February–April | all | Sown first of all, eaten first of all.
Tomato “Balcony Gem” | Seeds > Vegetables > Tomatoes | 3.5 | tomato | February–April | all | One plant, one large pot, two hundred fruit.
Tomato “Old Kiln” | Seeds > Vegetables > Tomatoes | 3.5 | tomato | February–March | gentle | A beef tomato for a greenhouse or a warm wall.
Tomato “Amber Row” | Seeds > Vegetables > Tomatoes | 3.9 | tomato | February–April | gentle | Yellow, sweet, and split by nothing.
Leek “Standing Winter” | Seeds > Vegetables > Onions and leeks | 2.6 | leek | March–April | all | Stands on heavy clay until March.
Spring onion “White Thread” | Seeds > Vegetables > Onions and leeks | 2.2 | leek | March–August | all | A row every three weeks, and there are always some.
Garlic “Early Marl” | Seeds > Vegetables > Onions and leeks | 4.8 | garlic-plait | October–November | all | Three bulbs to plant, thirty to hang up.
Beetroot “Dark Moon” | Seeds > Vegetables > Roots | 2.4 | beetroot | April–July | all | Forgives shade, drought and neglect.
Carrot “Short Measure” | Seeds > Vegetables > Roots | 2.4 | spring-rows | March–July | all | Round as a radish, for pots and stones.
Parsnip “Patience” | Seeds > Vegetables > Roots | 2.7 | spring-rows | March–May | all | Slow to come up; worth it in January.
Pumpkin “Lantern Tall” | Seeds > Vegetables > Squash | 3.3 | pumpkins | April–May | all | To carve, and then to eat.
Courgette “Two Are Plenty” | Seeds > Vegetables > Squash | 3.0 | pumpkins | April–June | all | It says so on the packet for a reason.
Salad leaves “Window Sill” | Seeds > Salad | 2.1 | seedling | All year | all | Cut four times from one sowing.
Lettuce “Slow to Bolt” | Seeds > Salad | 2.2 | seedling | March–August | all | Keeps its head in July.
Rocket “Old Wall” | Seeds > Salad | 1.9 | seedling | March–September | all | Wild, sharp, and back every year.
Sweet pea “Evening Post” | Seeds > Flowers > Climbers | 2.8 | sweet-pea | October, February–April | all | Lilac and cream; one bunch scents a room.
Sweet pea “Harbour Mix” | Seeds > Flowers > Climbers | 2.5 | sweet-pea | October, February–April | all | Three colours to a stem.
Sunflower “For Small Hands” | Seeds > Flowers | 2.0 | sunflower | April–May | all | A packet, a wall that faces south, a tape measure.
Sunflower “Dusk” | Seeds > Flowers | 2.6 | sunflower | April–May | gentle | Mahogany, branching, good to cut.
Crocus “First Word”, 25 bulbs | Bulbs | 6.5 | crocus | September–November | all | Purple, in grass, before the mower is out.
Tulip “Spring Table”, 15 bulbs | Bulbs | 8.5 | spring-tulips | October–December | all | Late, tall and steady in wind.
Mixed bulbs for a pot | Bulbs | 9.9 | bulbs | September–December | all | Three layers, flowers from February to May.
Apple “Alderwick Russet” | Plants > Fruit | 34 | apples | November–March | all | On a dwarfing stock, trained flat in two years.
Apple “Stonecross Early” | Plants > Fruit | 34 | apples | November–March | all | Red, crisp, eaten from the tree in August.
Tomato plant, grafted | Plants > Vegetables | 5.5 | seedling | May–June | gentle | Twice the crop; keep the graft above the soil.
Leek plants, bundle of 50 | Plants > Vegetables | 7.5 | leek | May–July | all | Pencil-thick and ready to dib in.
Bouquet of the week | Gifts | 28 | bouquet | All year | all | What stands best in the field on Thursday.
Trowel, forged | Tools > Hand tools | 24 | trowel | All year | all | From one piece, with an ash handle. For life.
Trowel, narrow | Tools > Hand tools | 18 | trowel | All year | all | For bulbs, and for the roots of docks.
Watering can, 9 litres | Tools > Watering | 39 | watering-can | All year | all | Balanced when full; a brass rose.
Watering can for windowsills | Tools > Watering | 16 | watering-can | All year | all | A long spout and no drips.
Pruning saw, folding | Tools > Pruning | 22 | pruning-saw | All year | all | Cuts on the pull; fits a pocket.
Gloves, goatskin | Tools > Clothing | 19.5 | gloves | All year | all | Thorns stop here. Washable, in four sizes.
Seed tin with dividers | Gifts > For the shed | 21 | seed-packets | All year | all | A month behind each card.
Lantern for the bench | Gifts > For the shed | 32 | lantern | All year | all | For potting on after tea.
Gift parcel “First garden” | Gifts | 45 | parcel | All year | all | Trowel, gloves, six packets and a note that says when.
Potting bench, larch | Tools > Furniture | 180 | workshop | All year | all | Arrives flat; two screwdrivers and an hour.
Cold frame | Tools > Glass | 95 | greenhouse | All year | all | Adds a month at each end of the year.
Seed compost, 20 litres | Care > Compost | 6.9 | - | All year | all | Fine, low in feed, and free of peat.
Tomato feed, 1 litre | Care > Feed | 7.4 | tomato | June–September | all | Once a week from the first truss on.
Soup mix from last summer | Gifts > Larder | 5.2 | soup | All year | all | Beans, leek and barley; just add an evening.
Onion sets “Marl Brown”, 50 | Bulbs > Vegetables | 4.2 | - | March–April | all | Push in to the neck and let the birds be cross.
Workshop voucher | Gifts | 35 | workshop | All year | all | A morning at any of the four branches.
`
  .trim()
  .split("\n")
  .map((line) => {
    const [title, category, price, picture, months, zones, text] = line.split(" | ");
    return {
      title,
      category: category.split(" > "),
      price: Number(price),
      picture: picture === "-" ? null : picture,
      months,
      zones: ZONES[zones as keyof typeof ZONES],
      text,
    };
  });

const LONG = `The long story: ${"how it was found in a walled garden, saved by three neighbours in turn, grown on at Fennimoor for eleven seasons, and given a name by a vote in the seed club. ".repeat(12)}`;

/** All products. Some are packed larger as well. */
export function products(): Product[] {
  const all: Product[] = [];
  for (const [at, kind] of KINDS.entries()) {
    const { title, category, price } = kind;
    const one = (sku: string, more: Partial<Product>): Product => ({
      ...kind,
      sku,
      sale: null,
      // None of one, few of some.
      stock: at === 13 ? 0 : (at * 37) % 90 < 6 ? 3 : 12 + ((at * 37) % 90),
      age: 3 + ((at * 53) % 400),
      ...more,
    });
    const number = String(1001 + at * 2);
    all.push(
      one(number, {
        sale: at % 9 === 4 ? Math.round(price * 80) / 100 : null,
        ...(at === 16 && { text: LONG }),
      }),
      one(String(1002 + at * 2), {
        title: `${title}, ${category[0] === "Seeds" ? "allotment packet" : category[0] === "Bulbs" ? "double bag" : "set of two"}`,
        price: Math.round(price * 1.8 * 10) / 10,
        stock: 5 + ((at * 17) % 40),
        age: 20 + ((at * 71) % 380),
      }),
    );
  }
  return all;
}
