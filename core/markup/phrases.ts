/** What blocks say to those who listen, besides what the designer wrote, in the language of the message. */
interface Phrases {
  answer(answer: number, of: number): string;
  play(what: string): string;
  film: string;
}

const PHRASES: Readonly<Record<string, Phrases>> = {
  en: { answer: (a, of) => `Answer ${a} of ${of}`, play: (what) => `Play: ${what}`, film: "Play the film" },
  de: {
    answer: (a, of) => `Antwort ${a} von ${of}`,
    play: (what) => `Abspielen: ${what}`,
    film: "Den Film abspielen",
  },
  fr: { answer: (a, of) => `Réponse ${a} sur ${of}`, play: (what) => `Lire : ${what}`, film: "Lire le film" },
  es: {
    answer: (a, of) => `Respuesta ${a} de ${of}`,
    play: (what) => `Reproducir: ${what}`,
    film: "Reproducir la película",
  },
  it: {
    answer: (a, of) => `Risposta ${a} di ${of}`,
    play: (what) => `Riproduci: ${what}`,
    film: "Riproduci il filmato",
  },
  nl: {
    answer: (a, of) => `Antwoord ${a} van ${of}`,
    play: (what) => `Afspelen: ${what}`,
    film: "De film afspelen",
  },
  pt: {
    answer: (a, of) => `Resposta ${a} de ${of}`,
    play: (what) => `Reproduzir: ${what}`,
    film: "Reproduzir o filme",
  },
  pl: {
    answer: (a, of) => `Odpowiedź ${a} z ${of}`,
    play: (what) => `Odtwórz: ${what}`,
    film: "Odtwórz film",
  },
};

/** The phrases in a language; in English where there are none in it. */
export const phrases = (language: string): Phrases =>
  PHRASES[language.toLowerCase().split(/[-_]/)[0]] ?? PHRASES.en;
