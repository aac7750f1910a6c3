import { fillSentence, type EvidenceValue } from '../findings/finding.js';
import { DIFFERENCES } from '../badge/token/difference.js';
import type { SheetLanguage } from './sentences.js';

type Said = Readonly<Record<SheetLanguage, string>>;

/**
 * Why something does not stand as it must, in words for people who have never heard of it. Only what everybody can see of their own
 * zone or website is filled in: whose another token is, nobody outside the agency has to read.
 */
const REASONS: Readonly<Record<string, Said>> = {
  'dns.doubled-name': {
    en: 'The record stands at {other}: the panel added the zone’s name once more. Take it out of the name.',
    de: 'Der Eintrag steht unter {other}: Die Oberfläche hat den Namen der Zone noch einmal angehängt. Bitte im Namen weglassen.',
  },
  'dns.doubled-label': {
    en: 'The record stands at {other}: the first part of its name is there twice.',
    de: 'Der Eintrag steht unter {other}: Der erste Teil des Namens steht doppelt da.',
  },
  'dns.at-www': {
    en: 'The record stands at {other}; it belongs at {name}.',
    de: 'Der Eintrag steht unter {other}; er gehört zu {name}.',
  },
  'dns.parted': {
    en: 'The value was parted into two records. It has to be one.',
    de: 'Der Wert wurde auf zwei Einträge verteilt. Er gehört in einen.',
  },
  'dns.alias-hides': {
    en: '{name} is an alias for {alias}, so that nobody sees a record beside it.',
    de: '{name} ist ein Alias für {alias}; ein Eintrag daneben ist nicht zu sehen.',
  },
  'dns.wildcard': {
    en: 'A record for all names answers there; this name needs one of its own.',
    de: 'Es antwortet ein Eintrag für alle Namen; dieser Name braucht einen eigenen.',
  },
  'dns.servers-disagree': {
    en: 'Not all name servers have the record yet. Mostly that passes within the hour.',
    de: 'Noch nicht alle Nameserver haben den Eintrag. Meist dauert das keine Stunde.',
  },
  'dns.wrong-host': {
    en: 'The record was put at {aside}, but the domain is looked after at {delegated}.',
    de: 'Der Eintrag steht bei {aside}, zuständig für die Domain ist aber {delegated}.',
  },
  'dns.remembered': {
    en: 'The record is there. Others still remember the old answer; nothing has to be done.',
    de: 'Der Eintrag ist da. Andere merken sich noch die alte Antwort; es ist nichts zu tun.',
  },
  'dns.going-stale': {
    en: 'The record was taken out. It is only still remembered for a while.',
    de: 'Der Eintrag wurde entfernt und ist nur noch im Zwischenspeicher zu sehen.',
  },
  'dns.server-fails': {
    en: 'The name servers answer with an error of their own.',
    de: 'Die Nameserver antworten mit einem eigenen Fehler.',
  },
  'dns.no-answer': {
    en: 'The name servers gave no answer when we looked.',
    de: 'Die Nameserver haben nicht geantwortet, als wir nachgesehen haben.',
  },
  'meta.outside-head': {
    en: 'The tag is on the page (line {line}), but below the head. It has to stand before {ender}.',
    de: 'Das Tag steht auf der Seite (Zeile {line}), aber nicht im Kopf. Es muss vor {ender} stehen.',
  },
  'meta.in-comment': {
    en: 'The tag is inside a comment (line {line}), which nobody reads.',
    de: 'Das Tag steht in einem Kommentar (Zeile {line}), den niemand liest.',
  },
  'meta.in-noscript': {
    en: 'The tag is inside “noscript” (line {line}); it has to stand straight in the head.',
    de: 'Das Tag steht in „noscript“ (Zeile {line}); es muss unmittelbar im Kopf stehen.',
  },
  'meta.in-template': {
    en: 'The tag is inside “template” (line {line}); it has to stand straight in the head.',
    de: 'Das Tag steht in „template“ (Zeile {line}); es muss unmittelbar im Kopf stehen.',
  },
  'meta.in-script': {
    en: 'A script puts the tag in (line {line}). It has to be on the page as it is sent.',
    de: 'Ein Skript fügt das Tag ein (Zeile {line}). Es muss schon auf der gesendeten Seite stehen.',
  },
  'meta.as-text': {
    en: 'The tag is on the page as visible text (line {line}): its signs were changed on the way.',
    de: 'Das Tag steht als sichtbarer Text auf der Seite (Zeile {line}): Seine Zeichen wurden unterwegs verändert.',
  },
  'meta.by-property': {
    en: 'The tag says property= where it has to say name= (line {line}).',
    de: 'Im Tag steht property=, es muss aber name= heißen (Zeile {line}).',
  },
  'meta.wrong-name': {
    en: 'The value is right, but the tag has another name (line {line}).',
    de: 'Der Wert stimmt, aber das Tag hat einen anderen Namen (Zeile {line}).',
  },
  'meta.repeated': {
    en: 'The tag is there several times, with different values. Only one may stay.',
    de: 'Das Tag steht mehrfach da, mit verschiedenen Werten. Nur eines darf bleiben.',
  },
  'meta.other-variant': {
    en: 'The tag stands on {other}; it belongs on {url}.',
    de: 'Das Tag steht auf {other}; es gehört auf {url}.',
  },
  'meta.stale-copy': {
    en: 'The tag is there, but a cache still shows an old copy of the page. Empty the cache, or wait.',
    de: 'Das Tag ist da, aber ein Cache zeigt noch eine alte Fassung der Seite. Bitte den Cache leeren oder warten.',
  },
  'meta.going-stale': {
    en: 'The tag was taken out; only a cached copy of the page still has it.',
    de: 'Das Tag wurde entfernt; nur eine zwischengespeicherte Seite hat es noch.',
  },
  'meta.sends-on': {
    en: '{url} only sends its visitors on to {to}. The tag has to stand on {url} itself.',
    de: '{url} leitet nur weiter nach {to}. Das Tag muss auf {url} selbst stehen.',
  },
  'meta.stands-behind': {
    en: 'The tag stands at {to}, but {url} only sends its visitors there. It has to stand on {url} itself.',
    de: 'Das Tag steht auf {to}, {url} leitet aber nur dorthin weiter. Es muss auf {url} selbst stehen.',
  },
  'file.empty': {
    en: 'The file is there, but empty.',
    de: 'Die Datei ist da, aber leer.',
  },
  'file.page-instead': {
    en: 'At that address a web page answers in place of the file.',
    de: 'Unter dieser Adresse antwortet eine Webseite statt der Datei.',
  },
  'file.wrapped': {
    en: 'The words are right, but a web page is around them. The file has to stand alone.',
    de: 'Der Inhalt stimmt, aber es ist eine Webseite darum herum. Die Datei muss allein stehen.',
  },
  'file.to-home': {
    en: 'The address leads to the home page, as missing files do there.',
    de: 'Die Adresse führt zur Startseite, wie dort bei fehlenden Dateien.',
  },
  'file.to-sign-in': {
    en: 'The address leads to a sign-in. Everybody has to be able to read the file.',
    de: 'Die Adresse führt zu einer Anmeldung. Die Datei muss für alle lesbar sein.',
  },
  'file.byte-order-mark': {
    en: 'An invisible sign (byte order mark) stands before the words. Save the file without it.',
    de: 'Vor dem Inhalt steht ein unsichtbares Zeichen (Byte Order Mark). Bitte ohne dieses speichern.',
  },
  'file.line-end': {
    en: 'There is a line break at the end that does not belong there.',
    de: 'Am Ende steht ein Zeilenumbruch, der nicht hineingehört.',
  },
  'file.encoding': {
    en: 'The file is saved as {encoding}; it has to be UTF-8.',
    de: 'Die Datei ist als {encoding} gespeichert; es muss UTF-8 sein.',
  },
  'file.not-exact': {
    en: 'The file has {got} bytes in place of {bytes}. Upload the one from the ZIP, without opening it.',
    de: 'Die Datei hat {got} Bytes statt {bytes}. Bitte die aus der ZIP-Datei hochladen, ohne sie zu öffnen.',
  },
  'file.wrong-folder': {
    en: 'The file lies at {other}; it belongs at {url}.',
    de: 'Die Datei liegt unter {other}; sie gehört nach {url}.',
  },
  'file.wrong-name': {
    en: 'The file lies at {other}: capital and small letters differ from {fileName}.',
    de: 'Die Datei liegt unter {other}: Groß- und Kleinschreibung weichen von {fileName} ab.',
  },
  'file.double-ending': {
    en: 'The file lies at {other}: its name got another ending than {fileName} has.',
    de: 'Die Datei liegt unter {other}: Ihr Name endet anders als {fileName}.',
  },
  'file.stale-copy': {
    en: 'The file is there, but a cache still gives an old answer. Empty the cache, or wait.',
    de: 'Die Datei ist da, aber ein Cache gibt noch eine alte Antwort. Bitte den Cache leeren oder warten.',
  },
  'file.going-stale': {
    en: 'The file was taken away; only a cached copy is still there.',
    de: 'Die Datei wurde entfernt; nur eine zwischengespeicherte Fassung ist noch da.',
  },
  'reach.denied': {
    en: 'The website keeps visitors out who are not signed in (status {status}), and search engines with them.',
    de: 'Die Website lässt niemanden ohne Anmeldung hinein (Status {status}), auch keine Suchmaschinen.',
  },
  'reach.rate-limited': {
    en: 'The website wanted fewer requests when we looked.',
    de: 'Die Website wollte weniger Anfragen, als wir nachgesehen haben.',
  },
  'reach.bot-wall': {
    en: 'A wall against programs stands before the website; search engines have to be let pass.',
    de: 'Vor der Website steht eine Sperre gegen Programme; Suchmaschinen müssen durchgelassen werden.',
  },
  'reach.server-error': {
    en: 'The website answers with an error of its own (status {status}).',
    de: 'Die Website antwortet mit einem eigenen Fehler (Status {status}).',
  },
};

/** The same for several codes. */
const SAME: Readonly<Record<string, string>> = {
  'dns.at-parent': 'dns.at-www',
  'dns.wrong-label': 'dns.at-www',
  'dns.no-label': 'dns.at-www',
  'file.at-folder': 'file.wrong-folder',
  'file.at-root': 'file.wrong-folder',
};

/** What is said of a place where something else stands, or that could not be looked at. */
const OTHERWISE: Readonly<Record<string, Said>> = {
  dns: { en: 'Another value stands there.', de: 'Dort steht ein anderer Wert.' },
  meta: { en: 'Another tag stands there.', de: 'Dort steht ein anderes Tag.' },
  file: { en: 'Another file lies there.', de: 'Dort liegt eine andere Datei.' },
  reach: {
    en: 'The website could not be read when we looked.',
    de: 'Die Website war nicht zu lesen, als wir nachgesehen haben.',
  },
};

/** The right value, but for something that is easily overlooked. */
function nearly(hint: EvidenceValue | undefined, language: SheetLanguage): string {
  if (language === 'de')
    return 'Der Wert stimmt fast: Anführungszeichen, Leerzeichen oder einzelne Zeichen weichen ab.';
  return typeof hint === 'string' ? `The value is almost right, but ${hint}.` : 'The value is almost right.';
}

/** The codes that have words of their own; every one of them is in the catalogue of findings. */
export const REASON_CODES: readonly string[] = [...Object.keys(REASONS), ...Object.keys(SAME)];

/**
 * Why something does not stand, in one language.
 * @param evidence the values of the finding; where one is missing that the sentence needs, it says less
 */
export function reasonFor(
  code: string,
  evidence: Readonly<Record<string, EvidenceValue>>,
  language: SheetLanguage,
): string {
  const said = REASONS[SAME[code] ?? code];
  const filled = said && fillSentence(said[language], evidence);
  if (filled !== undefined && !/\{\w+\}/u.test(filled)) return filled;
  const [area = '', what = ''] = code.split('.');
  if (DIFFERENCES.some((one) => one === what)) return nearly(evidence['hint'], language);
  return (OTHERWISE[area] ?? OTHERWISE['reach'] ?? { en: '', de: '' })[language];
}
