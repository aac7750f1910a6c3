/** The languages in which sheets are written. */
export const SHEET_LANGUAGES = ['en', 'de'] as const;
export type SheetLanguage = (typeof SHEET_LANGUAGES)[number];

/** Every sentence of a sheet; what stands in braces is filled in. */
export interface SheetSentences {
  readonly title: string;
  readonly intro: string;
  readonly counts: string;
  readonly allDone: string;
  readonly why: string;
  readonly zoneTitle: string;
  readonly zoneHow: string;
  readonly headTitle: string;
  readonly headHow: string;
  readonly valueAlone: string;
  readonly rootTitle: string;
  readonly rootHow: string;
  readonly rootZip: string;
  readonly type: string;
  readonly name: string;
  readonly wholeName: string;
  readonly value: string;
  readonly zoneFile: string;
  readonly nsupdate: string;
  readonly fileName: string;
  readonly filePath: string;
  readonly fileContent: string;
  readonly checkSum: string;
  readonly waiting: string;
  readonly left: string;
  readonly notThere: string;
  readonly put: string;
  readonly change: string;
  readonly ask: string;
  readonly waits: string;
  readonly until: string;
  readonly done: string;
  readonly mayGo: string;
  readonly stays: string;
  readonly stand: string;
  readonly holdsNow: string;
  readonly later: string;
  readonly others: string;
  readonly seenAt: string;
  readonly thanks: string;
}

export const ENGLISH: SheetSentences = {
  title: 'What to place for {property}',
  intro:
    'Search engines want proof that we act for the owners of {property}. The proof is something that only they can put in place, as described below. Visitors to the website do not see it.',
  counts: 'To be done: {open}. Done already: {done}.',
  allDone: 'Everything stands where it must. There is nothing to be done.',
  why: 'for {engine}',
  zoneTitle: 'In the DNS zone {where}',
  zoneHow:
    'Add these records beside those that are there; take none away, unless it is named here as one that may go. Most panels want the name without “.{where}”; “@” is the zone itself. Where a panel shows the whole name, take that one.',
  headTitle: 'In the head of {where}',
  headHow:
    'Paste these lines between <head> and </head> of this page, as they are, and empty the page’s cache. They may stand anywhere there, each once.',
  valueAlone: 'For a content system that asks for the value alone in a box of its own, copy only this',
  rootTitle: 'In the web root of {where}',
  rootHow: 'Upload these files under exactly these names, without opening and saving them in between.',
  rootZip: 'They are in the ZIP that comes with this sheet, in the right folders.',
  type: 'Type',
  name: 'Name, without the zone',
  wholeName: 'Whole name',
  value: 'Value',
  zoneFile: 'The same as lines of a zone file',
  nsupdate: 'The same for nsupdate',
  fileName: 'File name',
  filePath: 'Path from the web root',
  fileContent: 'What is in it',
  checkSum: 'SHA-256',
  waiting: 'It is all done; {waiting} of it others do not see yet. Nothing has to be done but to wait.',
  left: 'There are {left} websites more, which do not go onto this sheet: ask us for a sheet of each.',
  notThere: 'Nothing of it was there when we looked, at {at}.',
  put: 'to be placed',
  change: 'to be changed: it is ours already, but not yet right',
  ask: 'not to be touched yet: please tell us whose it is',
  waits: 'done; others do not see it yet',
  until: 'At the latest at {until} everybody sees it.',
  done: 'done; please leave it in place',
  mayGo: 'is old and may go',
  stays: 'done; has to stay, since the engine looks again',
  stand: 'Now: {says}',
  holdsNow: 'What stands there now: {found}',
  later: 'Something for {engines} is still to come: it will be on a sheet of its own.',
  others: 'Other ways to the same, if the ones above do not suit',
  seenAt: 'As it stood on {at}.',
  thanks: 'Thank you. We check again by ourselves; there is no need to write to us.',
};

export const GERMAN: SheetSentences = {
  title: 'Was für {property} zu hinterlegen ist',
  intro:
    'Suchmaschinen wollen wissen, dass berechtigt ist, wer bei ihnen nach {property} fragt. Dafür muss etwas dort stehen, wohin es nur die Betreiber legen können. Besucher der Website sehen davon nichts.',
  counts: 'Zu tun: {open}. Schon erledigt: {done}.',
  allDone: 'Alles steht, wo es stehen muss. Es ist nichts zu tun.',
  why: 'für {engine}',
  zoneTitle: 'In der DNS-Zone {where}',
  zoneHow:
    'Bitte diese Einträge zu den vorhandenen hinzufügen und keinen entfernen, der hier nicht als entbehrlich genannt ist. Die meisten Oberflächen wollen den Namen ohne „.{where}“; „@“ ist die Zone selbst. Wo der ganze Name verlangt ist, diesen nehmen.',
  headTitle: 'Im Kopf der Seite {where}',
  headHow:
    'Bitte diese Zeilen unverändert zwischen <head> und </head> dieser Seite einfügen und den Cache der Seite leeren. Sie dürfen dort an beliebiger Stelle stehen, jede einmal.',
  valueAlone: 'Für ein Redaktionssystem, das in einem eigenen Feld nur den Wert verlangt: nur dies kopieren',
  rootTitle: 'Im Hauptverzeichnis von {where}',
  rootHow:
    'Bitte diese Dateien unter genau diesen Namen hochladen, ohne sie zwischendurch zu öffnen und zu speichern.',
  rootZip: 'Sie liegen in der ZIP-Datei zu diesem Blatt, in den richtigen Ordnern.',
  type: 'Typ',
  name: 'Name, ohne die Zone',
  wholeName: 'Ganzer Name',
  value: 'Wert',
  zoneFile: 'Dasselbe als Zeilen einer Zonendatei',
  nsupdate: 'Dasselbe für nsupdate',
  fileName: 'Dateiname',
  filePath: 'Pfad ab dem Hauptverzeichnis',
  fileContent: 'Inhalt',
  checkSum: 'SHA-256',
  waiting: 'Alles ist erledigt; {waiting} davon sehen andere noch nicht. Es ist nur noch zu warten.',
  left: 'Es gibt {left} weitere Websites, die nicht auf dieses Blatt passen: Bitte bei uns je ein eigenes Blatt anfordern.',
  notThere: 'Als wir am {at} nachgesehen haben, war davon noch nichts da.',
  put: 'zu hinterlegen',
  change: 'zu ändern: gehört schon dazu, stimmt aber noch nicht',
  ask: 'bitte noch nicht anfassen, sondern uns sagen, von wem es ist',
  waits: 'erledigt; andere sehen es noch nicht',
  until: 'Spätestens am {until} sehen es alle.',
  done: 'erledigt; bitte stehen lassen',
  mayGo: 'ist alt und kann weg',
  stays: 'erledigt; muss bleiben, da die Suchmaschine wieder nachsieht',
  stand: 'Derzeit: {says}',
  holdsNow: 'Dort steht jetzt: {found}',
  later: 'Für {engines} kommt noch etwas: Es wird auf einem eigenen Blatt stehen.',
  others: 'Andere Wege zum selben Ziel, falls die oben nicht passen',
  seenAt: 'Stand vom {at}.',
  thanks: 'Vielen Dank. Wir sehen von selbst wieder nach; eine Rückmeldung ist nicht nötig.',
};

export const SENTENCES: Readonly<Record<SheetLanguage, SheetSentences>> = { en: ENGLISH, de: GERMAN };

/** Fills a sentence in. What has no value is left as it is, so that a slip is seen. */
export function filled(sentence: string, values: Readonly<Record<string, string | number>> = {}): string {
  return sentence.replace(/\{(\w+)\}/gu, (whole, name: string) => {
    const value = values[name];
    return value === undefined ? whole : String(value);
  });
}
