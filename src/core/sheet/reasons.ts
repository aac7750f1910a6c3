import { fillSentence, type EvidenceValue } from '../findings/finding.js';
import { DIFFERENCES } from '../findings/differences.js';
import type { SheetLanguage } from './sentences.js';

type Said = Readonly<Record<SheetLanguage, string>>;

/**
 * Why something does not stand as it must, in words for people who have never heard of it. Only what everybody can see of their own
 * zone or website is filled in: whose another token is, nobody outside the agency has to read.
 */
const REASONS: Readonly<Record<string, Said>> = {
  'dns.doubled-name': {
    en: 'There is one at {other}: the panel added the zone’s name once more. Enter it once more without the zone in its name.',
    de: 'Es gibt einen unter {other}: Die Oberfläche hat den Namen der Zone noch einmal angehängt. Bitte noch einmal eintragen, ohne die Zone im Namen.',
  },
  'dns.doubled-label': {
    en: 'There is one at {other}, with the first part of its name twice. Enter it once more under the right name.',
    de: 'Es gibt einen unter {other}, mit dem ersten Teil des Namens doppelt. Bitte noch einmal unter dem richtigen Namen eintragen.',
  },
  'dns.at-www': {
    en: 'The record stands at {other}, and may stay there; it has to stand at {name} as well.',
    de: 'Der Eintrag steht unter {other} und darf dort bleiben; er muss auch unter {name} stehen.',
  },
  'dns.parted': {
    en: 'The value was parted into two records. Add one that has all of it.',
    de: 'Der Wert wurde auf zwei Einträge verteilt. Bitte einen mit dem ganzen Wert hinzufügen.',
  },
  'dns.alias-hides': {
    en: '{name} is an alias for {alias}, and no record may stand beside an alias. Please leave the alias as it is: the website may hang on it.',
    de: '{name} ist ein Alias für {alias}; daneben darf kein Eintrag stehen. Bitte den Alias so lassen: Die Website kann daran hängen.',
  },
  'dns.wildcard': {
    en: 'A record for all names (*) answers there. One at this very name would end that, and whatever hangs on it.',
    de: 'Es antwortet ein Eintrag für alle Namen (*). Einer unter genau diesem Namen würde ihn dort beenden, und was daran hängt.',
  },
  'dns.host-by-wildcard': {
    en: 'The host has its address from a record for all names (*). Anything put here would end that, and the website would be out of reach.',
    de: 'Der Host hat seine Adresse von einem Eintrag für alle Namen (*). Was hier angelegt wird, beendet das, und die Website wäre nicht mehr erreichbar.',
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
    en: 'The value stands there in a tag of another name (line {line}), which may stay.',
    de: 'Der Wert steht in einem Tag mit anderem Namen (Zeile {line}), das bleiben darf.',
  },
  'meta.repeated-own': {
    en: 'The tag is there {times} times, and all are ours: one is too much (line {line}).',
    de: 'Das Tag steht {times}-mal da, und alle gehören zu uns: Eines ist zu viel (Zeile {line}).',
  },
  'meta.taken': {
    en: 'Another tag of that name stands there (line {line}), and the search engine would read ours in its place. Somebody may hold by it.',
    de: 'Dort steht ein anderes Tag dieses Namens (Zeile {line}), und die Suchmaschine würde unseres an seiner Stelle lesen. Es kann jemandem als Nachweis dienen.',
  },
  'dns.taken': {
    en: 'Another record stands there, and the search engine reads it only while it stands alone. Somebody may hold by it.',
    de: 'Dort steht ein anderer Eintrag, und die Suchmaschine liest ihn nur, solange er allein steht. Er kann jemandem als Nachweis dienen.',
  },
  'file.taken': {
    en: 'Another file lies there, and somebody may hold by it.',
    de: 'Dort liegt eine andere Datei, die jemandem als Nachweis dienen kann.',
  },
  'meta.behind-frame': {
    en: 'The page is only a frame around {frame}. The tag has to stand on {url} itself.',
    de: 'Die Seite ist nur ein Rahmen um {frame}. Das Tag muss auf {url} selbst stehen.',
  },
  'reach.redirected': {
    en: '{url} leads on to {location}, where this search engine does not follow. Please leave that as it is.',
    de: '{url} leitet weiter nach {location}, wohin diese Suchmaschine nicht folgt. Bitte so lassen.',
  },
  'meta.other-variant': {
    en: 'The tag stands on {other}, and may stay there; it has to stand on {url} as well.',
    de: 'Das Tag steht auf {other} und darf dort bleiben; es muss auch auf {url} stehen.',
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
    en: 'The file lies at {other}, and may stay there; it has to lie at {url} as well.',
    de: 'Die Datei liegt unter {other} und darf dort bleiben; sie muss auch unter {url} liegen.',
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
  'reach.off-host': 'reach.redirected',
  'reach.off-domain': 'reach.redirected',
};

/** What is said of a place where something else stands, or that could not be looked at. */
const OTHERWISE: Readonly<Record<string, Said>> = {
  dns: {
    en: 'Other records stand there: they stay, and this one comes beside them.',
    de: 'Dort stehen andere Einträge: Sie bleiben, und dieser kommt dazu.',
  },
  meta: {
    en: 'Another tag of that name stands there: it stays, and this one comes beside it.',
    de: 'Dort steht ein anderes Tag dieses Namens: Es bleibt, und dieses kommt dazu.',
  },
  file: { en: 'Another file lies there.', de: 'Dort liegt eine andere Datei.' },
  reach: {
    en: 'The website could not be read when we looked.',
    de: 'Die Website war nicht zu lesen, als wir nachgesehen haben.',
  },
};

/** What is said of ours that is old or was never filled in, whatever the method. */
const OURS: Readonly<Record<string, Said>> = {
  'replaced-token': {
    en: 'The token of before still stands there; nobody needs it any more.',
    de: 'Dort steht noch das frühere Token, das niemand mehr braucht.',
  },
  blank: { en: 'It is there, but holds nothing.', de: 'Es ist da, enthält aber nichts.' },
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
  const ours = OURS[what];
  if (ours) return ours[language];
  if (DIFFERENCES.some((one) => one === what)) return nearly(evidence['hint'], language);
  return (OTHERWISE[area] ?? OTHERWISE['reach'] ?? { en: '', de: '' })[language];
}
