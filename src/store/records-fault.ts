import { Explained } from '../core/input/explained-error.js';

/** The records cannot be worked with as they are; for whoever runs the service. */
export class RecordsFault extends Explained {}

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

/** The same of a file or folder, by the code of the system. */
const OF_FILES: Readonly<Record<string, string>> = {
  EACCES: 'may not be written: the service has to own the file and its folder',
  EPERM: 'may not be written: the service has to own the file and its folder',
  EROFS: 'may not be written: its disk is mounted to be read only',
  ENOSPC: 'cannot be written: its disk is full. Nothing is lost; make room, and start again',
  ENOTDIR: 'cannot be made: what is to be its folder is a file',
  EEXIST: 'cannot be made: what is to be its folder is a file',
};

/** What a fault of SQLite is called, in whatever it was wrapped; an empty text for anything else. */
function codeOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return /SQLITE_[A-Z]+/u.exec(text)?.[0] ?? '';
}

/** Whether what was thrown says that a part of the records is damaged. */
export function isDamage(error: unknown): boolean {
  return ['SQLITE_CORRUPT', 'SQLITE_NOTADB'].includes(codeOf(error));
}

/** Whether what was thrown says that the disk takes no more, or nothing at all. */
export function isDiskFault(error: unknown): boolean {
  return ['SQLITE_FULL', 'SQLITE_IOERR'].includes(codeOf(error));
}

/** What was thrown by opening a file, in words where they are known. */
export function asRecordsFault(error: unknown, file: string): unknown {
  if (error instanceof RecordsFault) return error;
  const ofFile = error instanceof Error && 'code' in error ? String(error.code) : '';
  const code = codeOf(error) || ofFile;
  const says = SAYS[code] ?? OF_FILES[code];
  return says === undefined ? error : new RecordsFault(`${file} ${says}. (${code})`);
}
