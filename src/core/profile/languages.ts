/** Every language that has a code of two letters (ISO 639-1). */
const CODES = (
  'aa ab ae af ak am an ar as av ay az ba be bg bh bi bm bn bo br bs ca ce ch co cr cs cu cv cy da de dv ' +
  'dz ee el en eo es et eu fa ff fi fj fo fr fy ga gd gl gn gu gv ha he hi ho hr ht hu hy hz ia id ie ig ' +
  'ii ik io is it iu ja jv ka kg ki kj kk kl km kn ko kr ks ku kv kw ky la lb lg li ln lo lt lu lv mg mh ' +
  'mi mk ml mn mr ms mt my na nb nd ne ng nl nn no nr nv ny oc oj om or os pa pi pl ps pt qu rm rn ro ru ' +
  'rw sa sc sd se sg si sk sl sm sn so sq sr ss st su sv sw ta te tg th ti tk tl tn to tr ts tt tw ty ug ' +
  'uk ur uz ve vi vo wa wo xh yi yo za zh zu '
)
  .trim()
  .split(' ');

/** In which languages names are understood. */
const NAMED_IN = ['en', 'de'] as const;

let byName: ReadonlyMap<string, string> | null = null;

/** Codes by the languages' names: in English, in German, and in the language itself. */
function namesOfLanguages(): ReadonlyMap<string, string> {
  byName ??= new Map(
    CODES.flatMap((code) =>
      [...NAMED_IN, code].flatMap((within): [string, string][] => {
        const name = new Intl.DisplayNames([within], { type: 'language', fallback: 'none' }).of(code);
        return name === undefined ? [] : [[name.toLocaleLowerCase('en'), code]];
      }),
    ),
  );
  return byName;
}

/** The code of a language by its code (ISO 639-1) or name; null where it is none. */
export function languageOf(text: string): string | null {
  const word = text.trim().toLocaleLowerCase('en');
  return CODES.includes(word) ? word : (namesOfLanguages().get(word) ?? null);
}

/**
 * The languages in what somebody typed, by blanks, commas or semicolons, each once.
 * @returns their codes, or the words that are no language
 */
export function languagesTyped(text: string): { readonly codes: string[] } | { readonly unknown: string[] } {
  const words = text
    .split(/[\s,;]+/u)
    .map((word) => word.trim())
    .filter((word) => word !== '' && word !== 'and' && word !== 'und');
  const unknown = words.filter((word) => languageOf(word) === null);
  return unknown.length > 0 || words.length === 0
    ? { unknown }
    : { codes: [...new Set(words.flatMap((word) => languageOf(word) ?? []))] };
}
