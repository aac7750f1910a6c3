import { JournalList } from '../parts/journal-list.js';

export function JournalPage() {
  return (
    <>
      <h1 className="mb-1 text-2xl">Journal</h1>
      <p className="mb-3 text-sm text-faint">What happened, when and by whom, newest first. Times are UTC.</p>
      <JournalList />
    </>
  );
}
