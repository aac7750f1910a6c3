import type Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import type { Lane } from '../../store/models/jobs.js';
import type { Actor, Desk } from '../context/desk.js';

/** One piece of recorded work, as it is given to those who do it. */
export interface Piece<Input extends object = object> {
  /** The same on every try: what is sent to an engine carries it, so that nothing happens twice there. */
  readonly itemId: string;
  /** Whether it was begun before, by a process that died: what comes first may be done already. */
  readonly again: boolean;
  readonly actor: Actor;
  readonly input: Input;
}

export interface NewPiece<Input extends object = object> {
  readonly subject: string;
  readonly input: Input;
  /** Before this it is not begun. */
  readonly dueAt?: Date;
  /** The host and the engine that it goes to, where it goes to one: few go to the same at once. */
  readonly host?: string;
  readonly engine?: string;
}

/** One kind of recorded work: what a piece of it is made of, and how it is done. */
export interface Work<Input extends object> {
  readonly kind: string;
  /** The lane in which it waits; by how many pieces a job has, where nothing is said. */
  readonly lane?: Lane;
  /** What is written down of a piece; checked again when it is read back. */
  readonly input: Joi.ObjectSchema<Input>;
  /** Does one piece. It must be safe to begin again with the same `itemId` after a crash or a stop. */
  readonly run: (desk: Desk, piece: Piece<Input>) => Promise<JobResult>;
  /** How far a piece is that runs, in words, where that is known; null where it is not. */
  readonly progress?: (desk: Desk, itemId: string) => Promise<string | null>;
}

/** A kind of work of whatever input: it is known by its schema what it gets. */
export interface AnyWork extends Omit<Work<object>, 'run' | 'input'> {
  readonly run: (desk: Desk, piece: Piece) => Promise<JobResult>;
}

/**
 * Makes work of one kind fit for the runner: what is read back is checked before it is done.
 * @throws Error from `run` where what was written down is not what the kind is made of
 */
export function anyWork<Input extends object>({ kind, lane, input, run, progress }: Work<Input>): AnyWork {
  return {
    kind,
    ...(lane ? { lane } : {}),
    ...(progress ? { progress } : {}),
    run: (desk, piece) => {
      const checked = input.validate(piece.input, { convert: false });
      if (checked.error)
        throw new Error(`what is on record is no piece of ${kind}: ${checked.error.message}`);
      return run(desk, { ...piece, input: checked.value });
    },
  };
}

/** Thrown by work that cannot be done before some time, but then. */
export class Later extends Error {
  constructor(
    readonly until: Date,
    readonly says: string,
  ) {
    super(says);
  }
}
