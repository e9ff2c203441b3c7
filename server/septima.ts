import type { Confined } from "./confined/confined";
import type { Database } from "./db/database";
import type { Files } from "./files";
import type { Jobs } from "./jobs";
import type { Mailboxes } from "./mail/mailboxes";
import type { Relay } from "./mail/relay";
import type { News } from "./news";

/** Where the key that opens what is sealed comes from. */
export interface KeyPlace {
  /** The key itself, as the environment says it (`SEPTIMA_KEY`); any words of at least 20 signs. */
  given: string | null;
  /** The folder in which it is kept otherwise, one for each workspace; not within that of the data. */
  folder: string;
}

/** Where things are for this process. */
interface Config {
  version: string;
  /** Folder of everything that is kept. */
  data: string;
  /** Address under which browsers reach the interface, without a slash at the end. */
  origin: string;
  /** Address under which readers reach what is for them, without a slash at the end; that of the interface where there is no other. */
  readers: string;
  /** Addresses of stand-ins by name; `standin://name/…` in an address stands for them. */
  standins: Readonly<Record<string, string>>;
  /** Where the key is by which passwords and signing keys are sealed. */
  key: KeyPlace;
  /** The relay that the environment sets; null when it does not. */
  relay: string | null;
  /** The address of the postroom of this process; null where there is none. */
  postroom: string | null;
  /** The folder into which others put what comes back; one within the data when missing. */
  returns?: string;
  /** The name server to ask, `address[:port]`; that of the machine when missing. */
  dns?: string;
}

/** A process among those that share the work. */
interface Worker {
  /** Of its own for each start. */
  name: string;
  /**
   * How long it has recipients in hand, unless it says again that it does, in milliseconds: longer than any pause of a
   * process that is well. Then others take them over.
   */
  lease: number;
}

/** What every function of the server is given: the world, with nothing global. */
export interface Septima {
  db: Database;
  config: Config;
  schema: number;
  worker: Worker;
  relay: Relay;
  jobs: Jobs;
  /** Where what strangers wrote is read. */
  confined: Confined;
  /** Where the documents of sources are read: a catalogue takes its time, and nobody's file should wait for it. */
  sourceWork: Confined;
  /** Where the messages of a rehearsal are made. */
  rehearsalWork: Confined;
  /** Files that all processes have. */
  files: Files;
  /** Where pictures are looked at and worked out: it takes longer, and nobody's feed should wait for it. */
  pictureWork: Confined;
  /** The mailboxes of the postroom of this process, whether mail goes there or not; null where there is none. */
  mailboxes: Mailboxes | null;
  /** Hears of what happens to designs. */
  news: News;
  /** Milliseconds since 1970. */
  now(): number;
  /** A new id: short, unguessable enough not to collide, safe in addresses. */
  newId(): string;
  cache: Map<string, unknown>;
  /** Aborted when the process is asked to stop: long work ends at its next safe place. */
  stopping: AbortSignal;
}

/** What is under a key of the cache, made when it is not there. */
export async function cached<T>(septima: Septima, key: string, make: () => Promise<T>): Promise<T> {
  let value = septima.cache.get(key) as Promise<T> | undefined;
  if (value === undefined) {
    value = make();
    septima.cache.set(key, value);
    value.catch(() => septima.cache.delete(key));
  }
  return value;
}
