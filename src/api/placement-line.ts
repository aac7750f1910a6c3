import type { WhatToPut } from './documents.js';

/** What has to be put, in one line: enough to tell an old one from a new one. */
export function placementLine(put: WhatToPut): string {
  switch (put.kind) {
    case 'meta':
      return put.tag;
    case 'file':
      return `${put.path} holding ${put.content}`;
    case 'dns':
      return put.value;
  }
}
