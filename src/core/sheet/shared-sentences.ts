import type { SheetLanguage } from './sentences.js';

/** Every sentence of the page behind a shared link that is not the sheet's own. */
export interface SharedSentences {
  readonly lookTitle: string;
  readonly lookHow: string;
  readonly look: string;
  readonly looking: string;
  readonly lookedAt: string;
  readonly mayAt: string;
  readonly wordTitle: string;
  readonly wordHow: string;
  readonly done: string;
  readonly cannot: string;
  readonly because: string;
  readonly send: string;
  readonly needsWhy: string;
  readonly thanks: string;
  readonly tooManyWords: string;
  readonly zip: string;
  readonly copy: string;
  readonly copied: string;
  readonly until: string;
  readonly nothing: string;
}

const ENGLISH: SharedSentences = {
  lookTitle: 'Placed something? Have it looked at',
  lookHow:
    'We look whether it stands where it must; that takes a minute at most, and this page then says what we saw.',
  look: 'Look now',
  looking: 'We are looking. This page shows what we see as soon as we know.',
  lookedAt: 'We looked last at {at}.',
  mayAt: 'It was looked at a short while ago; it can be looked at again from {at} on.',
  wordTitle: 'Send us word',
  wordHow: 'Nobody has to: we look by ourselves, too. But it helps to know what keeps you.',
  done: 'It is done',
  cannot: 'I cannot do it, because …',
  because: 'In your own words',
  send: 'Send',
  needsWhy: 'Please say in a few words what keeps you.',
  thanks: 'Thank you. Your word was sent.',
  tooManyWords: 'Enough was sent by this link for today. Please answer the mail by which you got it.',
  zip: 'The files and this sheet, as a ZIP',
  copy: 'Copy',
  copied: 'Copied',
  until: 'This page can be opened by whoever has its address, until {at}.',
  nothing: 'There is nothing to be placed at present.',
};

const GERMAN: SharedSentences = {
  lookTitle: 'Etwas hinterlegt? Nachsehen lassen',
  lookHow:
    'Wir sehen nach, ob alles dort steht, wo es stehen muss. Das dauert höchstens eine Minute; danach steht hier, was wir gesehen haben.',
  look: 'Jetzt nachsehen',
  looking: 'Wir sehen gerade nach. Das Ergebnis erscheint hier, sobald wir es kennen.',
  lookedAt: 'Zuletzt haben wir am {at} nachgesehen.',
  mayAt: 'Es wurde gerade erst nachgesehen; ab {at} geht es wieder.',
  wordTitle: 'Uns Bescheid geben',
  wordHow: 'Das muss niemand: Wir sehen auch von selbst nach. Aber es hilft zu wissen, woran es hängt.',
  done: 'Es ist erledigt',
  cannot: 'Ich kann es nicht, weil …',
  because: 'In eigenen Worten',
  send: 'Senden',
  needsWhy: 'Bitte kurz schreiben, woran es hängt.',
  thanks: 'Vielen Dank, die Nachricht ist unterwegs.',
  tooManyWords:
    'Über diesen Link wurde heute schon genug geschickt. Bitte auf die Mail antworten, mit der er kam.',
  zip: 'Die Dateien und dieses Blatt als ZIP',
  copy: 'Kopieren',
  copied: 'Kopiert',
  until: 'Diese Seite kann öffnen, wer ihre Adresse hat, bis zum {at}.',
  nothing: 'Derzeit ist nichts zu hinterlegen.',
};

export const SHARED_SENTENCES: Readonly<Record<SheetLanguage, SharedSentences>> = { en: ENGLISH, de: GERMAN };
