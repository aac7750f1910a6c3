import { CommonForm } from './common-form.js';
import type { Fields } from './fields.js';
import type { PositionTracker } from './parser-position.js';
import { UsualForm } from './usual-form.js';

/** How far a text was read. */
export interface QuickRead {
  readonly at: number;
  /** Behind the last entry that is whole in the text; 0 where none is. */
  readonly whole: number;
  /** Where the newest element begins; before 0 where none was read. */
  readonly opened: number;
}

/** Reads entries without the parser for as long as they are whole and written as nearly everybody writes them. */
export class QuickWay {
  private readonly common: CommonForm;
  /** The usual form of entries of a urlset, and whether the text that is read is laid out for it. */
  private readonly usual: UsualForm | null;
  private isLaidOut = false;

  /**
   * @param entry the name of the elements that are entries
   * @param folder what addresses have to begin with; null for an index, whose entries have no usual form
   */
  constructor(
    entry: string,
    folder: string | null,
    private readonly fields: Fields,
    private readonly place: PositionTracker,
  ) {
    this.common = new CommonForm(entry);
    this.usual = folder === null ? null : new UsualForm(folder);
  }

  /** What closes an entry. */
  get close(): string {
    return this.common.close;
  }

  /** Another text is to be read. */
  anew(): void {
    this.isLaidOut = false;
  }

  read(text: string, from: number): QuickRead {
    const { common, usual } = this;
    const last = text.lastIndexOf(common.close);
    const whole = last === -1 ? 0 : last + common.close.length;
    let at = from;
    let opened = -1;
    if (usual && !this.isLaidOut) {
      usual.layOut(text);
      this.isLaidOut = true;
    }
    while (at < whole) {
      if (usual?.read(at) === true) {
        this.takeUsual(usual);
        ({ opened, end: at } = usual);
      } else if (common.read(text, at)) {
        this.takeCommon(common);
        ({ opened, end: at } = common.entry);
      } else break;
    }
    return { at, whole, opened };
  }

  private takeCommon({ entry: { names, texts, ends } }: CommonForm): void {
    const { fields, place } = this;
    fields.begins();
    for (let at = 0; at < names.length; at += 1) {
      const name = names[at];
      if (name === undefined || !fields.has(name)) continue;
      fields.settle(name, texts[at] ?? '', place.at(ends[at] ?? 0));
    }
  }

  private takeUsual(usual: UsualForm): void {
    this.fields.begins();
    this.fields.enterUsual(usual.address, this.place.at(usual.addressEnd));
    usual.eachField(this.settleAt);
  }

  private readonly settleAt = (field: string, text: string, end: number): void => {
    this.fields.settle(field, text, this.place.at(end));
  };
}
