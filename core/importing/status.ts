/** Words of a file that say whether somebody may be written to. Nobody is subscribed by a guess. */
import { z } from "zod";
import { readBoolean } from "../tables";

/** What a word means: they may be written to, or why not; or that lines with it are left out. */
const MEANINGS = ["subscribed", "unsubscribed", "bounced", "complained", "out"] as const;
export const MeaningSchema = z.enum(MEANINGS);
export type Meaning = z.infer<typeof MeaningSchema>;

/** So many words are told apart; further ones are not known. */
export const MOST_WORDS = 200;
/** So long is a word at most that somebody could be asked about. */
const LONGEST = 60;

/** A word without what writers differ in: case, accents, signs between. Empty where nothing stands. */
export const foldStatus = (text: string): string =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replaceAll("ł", "l")
    .replaceAll("ß", "ss")
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim()
    .slice(0, LONGEST);

/** In English, German, French, Spanish, Italian, Dutch, Portuguese and Polish. */
const KNOWN: Record<Meaning, string> = {
  subscribed: `subscribed, subscriber, active, confirmed, opted in, opt in, optin, double opt in, ok, valid, enabled, member,
    abonniert, aktiv, angemeldet, bestatigt, eingewilligt, abonne, abonnee, actif, active, inscrit, inscrite, confirme,
    confirmee, suscrito, suscrita, activo, activa, confirmado, confirmada, alta, iscritto, iscritta, attivo, attiva,
    confermato, confermata, ingeschreven, actief, bevestigd, aangemeld, geabonneerd, inscrito, inscrita, ativo, ativa,
    subscrito, subscrita, zapisany, zapisana, aktywny, aktywna, potwierdzony, potwierdzona`,
  unsubscribed: `unsubscribed, unsubscribe, unsub, opted out, opt out, optout, inactive, cancelled, canceled, removed, deleted,
    suppressed, suppress, do not email, do not mail, do not contact, do not send, dnc, no email, blocked, blacklisted,
    blocklisted, excluded, disabled, revoked, withdrawn, left, never,
    abgemeldet, abbestellt, gekundigt, gesperrt, inaktiv, widerrufen, ausgetragen, geloscht, storniert, entfernt,
    nicht anschreiben, keine werbung, kein newsletter, desabonne, desabonnee, desinscrit, desinscrite, inactif, inactive,
    resilie, resiliee, supprime, supprimee, bloque, bloquee, refuse, ne pas contacter, desuscrito, desuscrita, baja,
    dado de baja, dada de baja, cancelado, cancelada, inactivo, inactiva, bloqueado, bloqueada, eliminado, eliminada,
    no contactar, disiscritto, disiscritta, cancellato, cancellata, inattivo, inattiva, bloccato, bloccata, rimosso, rimossa,
    revocato, revocata, non contattare, uitgeschreven, afgemeld, opgezegd, inactief, geblokkeerd, verwijderd, geannuleerd,
    niet mailen, nao subscrito, descadastrado, descadastrada, inativo, inativa, removido, removida, anulado, anulada,
    nao contactar, wypisany, wypisana, nieaktywny, nieaktywna, zablokowany, zablokowana, usuniety, usunieta, anulowany,
    anulowana, nie wysylac`,
  bounced: `bounced, bounce, hard bounce, hard bounced, soft bounce, soft bounced, invalid, undeliverable, undelivered, dead,
    unzustellbar, ungultig, nicht zustellbar, invalide, non distribuable, rejete, rebotado, rebotada, no valido, invalido,
    invalida, rimbalzato, non valido, non recapitabile, onbestelbaar, ongeldig, devolvido, devolvida, nieprawidlowy,
    nieprawidlowa, niedostarczalny, odbity`,
  complained: `complained, complaint, complainer, spam, spam complaint, spam report, abuse, reported as spam, marked as spam,
    junk, beschwerde, spambeschwerde, spam beschwerde, plainte, plainte pour spam, queja, denuncia, reclamo, segnalato,
    segnalazione, klacht, spamklacht, reclamacao, denuncia de spam, skarga, zgloszony jako spam`,
  out: `pending, unconfirmed, not confirmed, awaiting confirmation, waiting, non subscribed, not subscribed, never subscribed,
    ausstehend, unbestatigt, nicht bestatigt, en attente, non confirme, non confirmee, pendiente, sin confirmar,
    no confirmado, no confirmada, in attesa, non confermato, non confermata, in afwachting, onbevestigd, niet bevestigd,
    pendente, nao confirmado, nao confirmada, oczekujacy, oczekujaca, niepotwierdzony, niepotwierdzona`,
};

const WORDS = new Map(
  MEANINGS.flatMap((meaning) =>
    KNOWN[meaning].split(",").map((word): [string, Meaning] => [foldStatus(word), meaning]),
  ),
);

/** Columns whose yes means that somebody must not be written to. */
const TURNED =
  /(un.?subscri|opt(ed)?.?out|abgemeldet|abbestellt|gesperrt|gek.ndigt|widerruf|suppress|do.?not|block|bounce|complain|d[ée]s(abonn|inscri)|baja|disiscri|uitgeschreven|afgemeld|wypisan|inactive|inaktiv)/i;

/** Whether yes, in a column of such a name, means that somebody must not be written to. */
export const isTurned = (column: string): boolean => TURNED.test(column);

/**
 * What a word means; null where nobody knows.
 * @param turned whether yes means that they must not be written to
 * @param chosen what somebody said that words mean, by `foldStatus`
 */
export function readStatus(
  text: string,
  turned: boolean,
  chosen: Readonly<Record<string, Meaning>>,
): Meaning | null {
  const word = foldStatus(text);
  if (Object.hasOwn(chosen, word)) return chosen[word];
  const known = WORDS.get(word);
  if (known) return known;
  // A dash says nothing.
  const yes = word === "" ? null : readBoolean(word);
  if (yes === null) return null;
  return yes === turned ? "unsubscribed" : "subscribed";
}
