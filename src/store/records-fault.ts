/** The records cannot be worked with as they are; for whoever runs the service. */
export class RecordsFault extends Error {}

/** What is the matter, by the code of SQLite (https://sqlite.org/rescode.html), and what to do about it. */
const SAYS: Readonly<Record<string, string>> = {
  SQLITE_NOTADB:
    'is no file of records. If it is one, it was overwritten or cut: put the newest copy of it there',
  SQLITE_CORRUPT:
    'is damaged. Put the newest copy of it there, and keep this one: most of it may still be read',
  SQLITE_CANTOPEN:
    'cannot be opened: its folder has to be there, and the service has to be allowed to write in it',
  SQLITE_READONLY: 'may not be written. The service has to own the file and its folder',
  SQLITE_FULL: 'cannot be written: its disk is full. Nothing is lost; make room, and start again',
  SQLITE_IOERR: 'cannot be read or written: its disk fails or is full',
};

/** What a fault of SQLite is called, in whatever it was wrapped; an empty text for anything else. */
function codeOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return /SQLITE_[A-Z]+/u.exec(text)?.[0] ?? '';
}

/** Whether what was thrown says that the disk takes no more, or nothing at all. */
export function isDiskFault(error: unknown): boolean {
  return ['SQLITE_FULL', 'SQLITE_IOERR'].includes(codeOf(error));
}

/** What was thrown by opening a file, in words where they are known. */
export function asRecordsFault(error: unknown, file: string): unknown {
  const code = codeOf(error);
  const says = SAYS[code];
  return says === undefined ? error : new RecordsFault(`${file} ${says}. (${code})`);
}
