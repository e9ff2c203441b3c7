/** Messages made of what a dispatch froze, before they are signed: by its key alone, in whatever process. */
import { type Headers, MessageFactory } from "~/core/mime";
import {
  type Bound,
  type FrozenProgram,
  type FrozenReader,
  frozenContact,
  type Reader,
  readerOf,
  thaw,
} from "~/core/personal";
import { messageAddressesBy } from "../addresses";

/** All that goes into the messages of a dispatch but its readers. */
export interface Frozen {
  program: FrozenProgram;
  headers: Headers;
  /** Where readers reached us. */
  origin: string;
  /** What stood in it by hand, as `itemKey` tells items; missing in what was frozen before it was kept. */
  placed?: string[];
}

/** A reader of a dispatch as they were gathered, with what was settled when their message was taken in hand. */
export interface Addressed extends Omit<FrozenReader, "email"> {
  /** The address it goes to. */
  address: string;
  name: string | null;
  messageId: string;
  at: Date;
}

/** The codes of a reader, by the key of their batch. */
export type Codes = Readonly<Record<string, string>>;

/** Makes the messages of one dispatch. */
export interface Making {
  bound: Bound;
  factory: MessageFactory;
  reader(to: Addressed, codes?: Codes): Reader;
  /** A message to the last octet but for its signatures. */
  octets(to: Addressed, reader: Reader): Uint8Array;
}

/** Readies what a dispatch froze. @param secret the key by which addresses are signed */
export function makingOf(
  secret: string,
  dispatch: { id: string; campaignId: string },
  { program, headers, origin }: Frozen,
): Making {
  const bound = thaw(program);
  const factory = new MessageFactory(bound, headers, `septima-${dispatch.id}`);
  const addresses = messageAddressesBy(secret, {
    origin,
    dispatch: dispatch.id,
    campaign: dispatch.campaignId,
    links: program.bound.links?.length ?? 0,
  });
  return {
    bound,
    factory,
    reader: (to, codes = {}) =>
      readerOf(frozenContact({ ...to, email: to.address }), program.bound.language, addresses(to.id), codes),
    octets: (to, reader) =>
      factory.build(reader, {
        to: { name: to.name ?? "", address: to.address },
        messageId: to.messageId,
        date: to.at.getTime(),
        unsubscribe: reader.system.unsubscribe,
      }),
  };
}
