import { filesOf, isToDo, nsupdateScript, panelRow, tagBlock, zoneLines } from './forms.js';
import { filled, type SheetSentences } from './sentences.js';
import type { Sheet, SheetPlace, SheetState, SheetTask, SheetThing } from './sheet.js';

/** What a sheet is written of, whatever it is written as. */
export type Block =
  | { readonly kind: 'title' | 'heading' | 'subheading' | 'text' | 'faint'; readonly text: string }
  /** A text with an address in it that is to be opened. */
  | { readonly kind: 'link'; readonly text: string; readonly url: string }
  /** A text to be copied as it is. */
  | { readonly kind: 'copy'; readonly label: string; readonly lines: readonly string[] }
  /** Fields of a form, each to be copied by itself. */
  | {
      readonly kind: 'fields';
      readonly label: string;
      /** What is the matter with it; null where nothing is to be said. */
      readonly says: string | null;
      readonly fields: readonly (readonly [string, string])[];
    }
  /** What is done, or may go. */
  | { readonly kind: 'item'; readonly struck: boolean; readonly text: string; readonly label: string };

/** What a sheet is about, and when. */
export interface SheetAbout {
  readonly property: string;
  /** Written as it is to be read. */
  readonly at: string;
  /** The SHA-256 of each file, by its path. */
  readonly sums: ReadonlyMap<string, string>;
  /** How many more properties there are than go onto one sheet. */
  readonly left: number;
  /** Engines whose tokens are not known yet, by title. */
  readonly later: readonly string[];
  /** Whether a ZIP with the files comes with it. */
  readonly zip: boolean;
}

/** The sheet as blocks, in one language. */
export function blocksOf(sheet: Sheet, words: SheetSentences, about: SheetAbout): Block[] {
  const { property, at } = about;
  const isOver = sheet.open === 0;
  const blocks: Block[] = [
    { kind: 'title', text: filled(words.title, { property }) },
    { kind: 'text', text: filled(words.intro, { property }) },
    { kind: 'text', text: inShort(sheet, words) },
    ...(about.left > 0 ? [{ kind: 'text', text: filled(words.left, { left: about.left }) } as const] : []),
    ...(about.later.length > 0
      ? [{ kind: 'text', text: filled(words.later, { engines: about.later.join(', ') }) } as const]
      : []),
    ...sheet.places.flatMap((place) => placeBlocks(place, words, about)),
  ];
  const others = sheet.others.filter(({ tasks }) => tasks.some(isToDo));
  if (others.length > 0) {
    blocks.push({ kind: 'heading', text: words.others });
    for (const place of others)
      blocks.push(
        ...placeBlocks(place, words, about).map((block): Block =>
          block.kind === 'heading' ? { kind: 'subheading', text: block.text } : block,
        ),
      );
  }
  blocks.push({ kind: 'faint', text: `${filled(words.seenAt, { at })}${isOver ? '' : ` ${words.thanks}`}` });
  return blocks;
}

/** How far it is, in one sentence. */
export function inShort({ open, waiting, done }: Sheet, words: SheetSentences): string {
  if (open > 0) return filled(words.counts, { open, done: done + waiting });
  return waiting > 0 ? filled(words.waiting, { waiting }) : words.allDone;
}

const TITLES = { zone: 'zoneTitle', head: 'headTitle', root: 'rootTitle' } as const;
const HOWS = { zone: 'zoneHow', head: 'headHow', root: 'rootHow' } as const;

function placeBlocks(place: SheetPlace, words: SheetSentences, about: SheetAbout): Block[] {
  const { kind, where } = place;
  const open = place.tasks.filter(isToDo);
  return [
    { kind: 'heading', text: filled(words[TITLES[kind]], { where }) },
    ...(open.length > 0 ? [{ kind: 'text', text: howTo(place, words, about) } as const] : []),
    ...(open.length > 0 ? toDo(place, open, words, about) : []),
    ...place.tasks
      .filter((task) => !isToDo(task))
      .flatMap((task): Block[] => [
        item(task, words),
        ...((task.state === 'waits' || task.state === 'ask') && task.says !== null
          ? [{ kind: 'faint', text: task.says } as const]
          : []),
      ]),
  ];
}

function howTo({ kind, where }: SheetPlace, words: SheetSentences, { zip }: SheetAbout): string {
  const how = filled(words[HOWS[kind]], { where });
  return kind === 'root' && zip ? `${how} ${words.rootZip}` : how;
}

const STATES: Readonly<Record<SheetState, 'put' | 'change' | 'ask' | 'waits' | 'done' | 'mayGo' | 'stays'>> =
  {
    put: 'put',
    change: 'change',
    ask: 'ask',
    waits: 'waits',
    done: 'done',
    'may-go': 'mayGo',
    stays: 'stays',
  };

function labelOf({ state, engine }: SheetTask, words: SheetSentences): string {
  return `${words[STATES[state]]} (${filled(words.why, { engine })})`;
}

function saysOf({ state, says }: SheetTask, words: SheetSentences): string | null {
  return says === null || state !== 'change' ? says : filled(words.stand, { says });
}

function toDo(
  place: SheetPlace,
  open: readonly SheetTask[],
  words: SheetSentences,
  { sums }: SheetAbout,
): Block[] {
  switch (place.kind) {
    case 'zone':
      return [
        ...open.flatMap((task): Block[] => {
          if (task.thing.kind !== 'dns') return [];
          const { type, name, wholeName, value } = panelRow(task.thing);
          const fields = [
            [words.type, type],
            [words.name, name],
            [words.wholeName, wholeName],
            [words.value, value],
          ] as const;
          return [{ kind: 'fields', label: labelOf(task, words), says: saysOf(task, words), fields }];
        }),
        { kind: 'copy', label: words.zoneFile, lines: zoneLines(place) },
        { kind: 'copy', label: words.nsupdate, lines: nsupdateScript(place) },
      ];
    case 'head': {
      const label = [...new Set(open.map((task) => labelOf(task, words)))].join('; ');
      const says = [...new Set(open.flatMap((task) => saysOf(task, words) ?? []))];
      return [
        ...says.map((text) => ({ kind: 'text', text }) as const),
        { kind: 'copy', label, lines: tagBlock(place) },
        {
          kind: 'fields',
          label: words.valueAlone,
          says: null,
          fields: open.flatMap(({ thing }) => valueAlone(thing)),
        },
      ];
    }
    case 'root':
      return open.flatMap((task): Block[] => {
        const { thing } = task;
        if (thing.kind !== 'file') return [];
        const fields = [
          [words.fileName, thing.fileName],
          [words.filePath, thing.path],
          [words.fileContent, thing.content],
          [words.checkSum, sums.get(thing.path) ?? ''],
        ] as const;
        return [{ kind: 'fields', label: labelOf(task, words), says: saysOf(task, words), fields }];
      });
  }
}

/** The name and the bare value of a tag, as boxes of content systems ask for them. */
function valueAlone(thing: SheetThing): (readonly [string, string])[] {
  return thing.kind === 'meta' ? [[thing.name, thing.content]] : [];
}

function item(task: SheetTask, words: SheetSentences): Block {
  const { thing, state } = task;
  const text =
    thing.kind === 'dns'
      ? `${thing.place} TXT ${thing.value}`
      : thing.kind === 'meta'
        ? thing.tag
        : thing.path;
  return { kind: 'item', struck: state !== 'may-go' && state !== 'ask', text, label: labelOf(task, words) };
}

/** The files that go with a sheet, by their path from the web root; of hosts with several web roots each below its host. */
export function filesWith(sheet: Sheet): { readonly path: string; readonly content: string }[] {
  const roots = new Set(sheet.places.filter(({ kind }) => kind === 'root').map(({ where }) => where));
  return filesOf(sheet.places).map(({ url, path, content }) => ({
    path: roots.size > 1 ? `${new URL(url).host}${path}` : path.slice(1),
    content,
  }));
}
