import { Problem } from '../../api/problems.js';
import { factAnswer } from '../../core/profile/fit.js';
import type { Desk } from '../context/desk.js';

/**
 * Facts as the engines that ask for them take them. Throws Problem for facts that nobody asks for, and for answers that are not among those
 * that are taken.
 */
export function answersTaken(
  { book }: Pick<Desk, 'book'>,
  facts: Readonly<Record<string, string>>,
): Record<string, string> {
  const wanted = [...book.profiles.values()].flatMap((profile) => profile.facts);
  return Object.fromEntries(
    Object.entries(facts).map(([id, given]) => {
      const asking = wanted.filter((fact) => fact.id === id);
      if (asking.length === 0) {
        const known = [...new Set(wanted.map((fact) => fact.id))].join(', ') || 'nothing';
        throw new Problem('fact-not-asked', { fact: id, known });
      }
      let answer = given;
      for (const fact of asking) {
        const taken = factAnswer(fact, answer);
        if ('fault' in taken) throw new Problem('bad-fact', { says: taken.fault });
        ({ answer } = taken);
      }
      return [id, answer];
    }),
  );
}
