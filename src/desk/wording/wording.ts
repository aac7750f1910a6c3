import type { Sentence, SentenceInput, WordingPreview } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { asText } from '../../core/sheet/sheet-formats.js';
import { faultIn, usualWords, WORDING_PARTS, type OwnWords } from '../../core/wording/wording.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { draftsFor } from '../letters/drafts.js';
import { gatherSheet } from '../sheet/sheet.js';
import { subjectOf } from '../sheet/subject.js';
import { ownWords } from '../context/own-words.js';

/** Every sentence, as it is said. */
export async function listWording(
  desk: Desk,
  { language, part }: { readonly language?: 'en' | 'de'; readonly part?: Sentence['part'] } = {},
): Promise<{ items: Sentence[] }> {
  const own = await ownWords(desk);
  return {
    items: SHEET_LANGUAGES.filter((one) => language === undefined || one === language).flatMap((one) => {
      const usual = usualWords(one);
      return WORDING_PARTS.filter((of) => part === undefined || of === part).flatMap((of) =>
        Object.entries(usual[of]).map(([name, says]) =>
          view(
            { language: one, part: of, name, says },
            own.find((it) => it.language === one && it.part === of && it.name === name),
          ),
        ),
      );
    }),
  };
}

function view(usual: OwnWords, own: OwnWords | undefined): Sentence {
  return { ...usual, says: own?.says ?? usual.says, usual: usual.says, isOwn: own !== undefined };
}

/** The usual words of a sentence. Throws Problem where there is none of that name, or what is to be said instead does not fit. */
function usualFor({ language, part, name, says }: SentenceInput): string {
  const words = usualWords(language)[part];
  const usual = Object.hasOwn(words, name) ? words[name] : undefined;
  if (usual === undefined) throw new Problem('no-such-sentence', { part, name });
  const fault = says === null ? null : faultIn(usual, says);
  if (fault !== null) throw new Problem('bad-wording', { name, fault, usual });
  return usual;
}

/** Says a sentence in other words from now on. Throws Problem. */
export async function editWording(desk: Desk, actor: Actor, input: SentenceInput): Promise<Sentence> {
  const usual = usualFor(input);
  const { language, part, name, says } = input;
  const key = { language, part, name };
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'DELETE FROM wordings WHERE language = $language AND part = $part AND name = $name',
      key,
      transaction,
    );
    if (says !== null)
      await desk.store.insert(
        'wordings',
        [{ ...key, says, at: nowText(desk), personId: actor.personId }],
        transaction,
      );
    await note(desk, actor, transaction, {
      kind: 'wording.changed',
      says: `${part}.${name} (${language}) is said ${says === null ? 'in the usual words again' : `as “${says}”`}.`,
    });
  });
  return view({ ...key, says: usual }, says === null ? undefined : { ...key, says });
}

/** How a sentence would read on the data of a property. Throws Problem. */
export async function previewWording(
  desk: Desk,
  actor: Actor,
  { property, ...input }: SentenceInput & { property: string },
): Promise<WordingPreview> {
  const usual = usualFor(input);
  const { language, part, name, says } = input;
  const tried = [{ language, part, name, says: says ?? usual }];
  const subject = await subjectOf({ property });
  const { blocks } = await gatherSheet(desk, subject, language, { tried });
  const drafted = await draftsFor(desk, actor, { property }, tried).catch((error: unknown) => {
    if (error instanceof Problem) return { drafts: [] };
    throw error;
  });
  return {
    sheet: asText(blocks),
    letters: drafted.drafts
      .filter(({ contact }) => contact.language === language)
      .map(({ write }) => write(null))
      .map(({ subject: title, text }) => ({ subject: title, text })),
  };
}
