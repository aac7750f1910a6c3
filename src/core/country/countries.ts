import { nearest } from '../address/nearest.js';

/** The codes of countries (ISO 3166-1 alpha-2). */
const CODES =
  `AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BV BW BY BZ CA CC CD CF
CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP
GQ GR GS GT GU GW GY HK HM HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR LS LT
LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL
PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR
TT TV TW TZ UA UG UM US UY UZ VA VC VE VG VI VN VU WF WS YE YT ZA ZM ZW`.split(/\s+/);

/** What people write for a country and is no code or name of it. */
const SLIPS: Readonly<Record<string, string>> = {
  uk: 'GB',
  'great britain': 'GB',
  britain: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  usa: 'US',
  'u.s.': 'US',
  'u.s.a.': 'US',
  america: 'US',
  holland: 'NL',
  czechia: 'CZ',
  el: 'GR',
  su: 'RU',
  eng: 'GB',
  ger: 'DE',
  swe: 'SE',
  fin: 'FI',
  est: 'EE',
};

/** Languages in which the names of all countries are known, besides those of each country itself. */
const LANGUAGES = 'en de fr it es pt nl sv fi da nb et lv lt pl cs'.split(' ');

let names: ReadonlyMap<string, string> | null = null;

/** A name as it is compared: without case, accents and signs. */
function bare(text: string): string {
  return text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}.]+/gu, ' ')
    .trim();
}

/** Every name of every country, to its code. Made once, when it is first asked for. */
function allNames(): ReadonlyMap<string, string> {
  if (names) return names;
  const made = new Map<string, string>(Object.entries(SLIPS));
  const inLanguage = new Map<string, Intl.DisplayNames>();
  const add = (language: string, code: string): void => {
    const own =
      inLanguage.get(language) ?? new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
    inLanguage.set(language, own);
    const name = own.of(code);
    if (name !== undefined && !made.has(bare(name))) made.set(bare(name), code);
  };
  for (const code of CODES) add('en', code);
  for (const code of CODES) {
    add(new Intl.Locale(`und-${code}`).maximize().language, code);
    for (const language of LANGUAGES) add(language, code);
  }
  names = made;
  return made;
}

/** A country in English, by its code: `FI` → `Finland`. */
export function countryName(code: string): string {
  return new Intl.DisplayNames(['en'], { type: 'region' }).of(code) ?? code;
}

/**
 * The code of a country by its code or its name, in English, its own language or one that is spoken nearby; usual slips (`UK`)
 * are taken for what they mean.
 * @returns null where it is none
 */
export function countryOf(text: string): string | null {
  const code = text.trim().toUpperCase();
  if (CODES.includes(code)) return code;
  return allNames().get(bare(text)) ?? null;
}

/** The country that a text is most likely a slip of, as `Finland (FI)`; null where none is near. */
export function nearestCountry(text: string): string | null {
  const near = nearest(bare(text), allNames().keys());
  const code = near === null ? undefined : allNames().get(near);
  return code === undefined ? null : `${countryName(code)} (${code})`;
}
