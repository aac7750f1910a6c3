import { GLOSSARY } from '../../api/glossary.js';
import { TagMark } from './tag-mark.js';

/** What the words and marks mean that a newcomer could not guess. */
export function Legend() {
  return (
    <details className="mt-4 text-sm">
      <summary className="cursor-pointer text-faint">What the words and marks mean</summary>
      <dl className="mt-2 grid gap-x-4 gap-y-1 sm:grid-cols-[9rem_1fr]">
        {GLOSSARY.map(({ word, means, badge }) => (
          <div key={word} className="contents">
            <dt>{badge ? <TagMark badge={badge} /> : <span className="font-semibold">{word}</span>}</dt>
            <dd className="m-0 max-sm:mb-2">{means}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
