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

/** What was thrown by opening a file, in words where they are known. */
export function asRecordsFault(error: unknown, file: string): unknown {
  const text = error instanceof Error ? error.message : String(error);
  const [code = ''] = /SQLITE_[A-Z]+/u.exec(text) ?? [];
  const says = SAYS[code];
  return says === undefined ? error : new RecordsFault(`${file} ${says}. (${code})`);
}
