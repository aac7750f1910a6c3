/** A document as it lies ready: JSON that goes out as it is, and is not parsed to be written again. */
export class DocumentText {
  constructor(readonly text: string) {}

  /** For whoever writes it by other means: the same document. */
  toJSON(): unknown {
    return JSON.parse(this.text);
  }
}

/** A page of documents, its items as they lie ready. */
export type Ready<Page extends { readonly items: readonly unknown[] }> = Omit<Page, 'items'> & {
  readonly items: readonly DocumentText[];
};

/** An answer as JSON; null where nothing of it lies ready, so that it may be written like any other. */
export function writtenFromReady(answer: object): string | null {
  const { items, ...rest } = answer as { readonly items?: unknown };
  if (!Array.isArray(items) || items.length === 0) return null;
  const texts = items.flatMap((one: unknown) => (one instanceof DocumentText ? [one.text] : []));
  if (texts.length < items.length) return null;
  const more = JSON.stringify(rest).slice(1);
  return `{"items":[${texts.join(',')}]${more === '}' ? '' : ','}${more}`;
}
