import type { WhatToPut } from '../../api/documents.js';
import { parseScope } from '../../core/address/reach.js';
import { placementOf, type Placement as CorePlacement } from '../../core/badge/placement.js';
import type { TokenRow } from '../../store/models/enrolments.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';

/** Where a token of an enrolment has to stand; null when the profile no longer takes the method. */
export function placementFor(facts: EnrolmentFacts, token: TokenRow): CorePlacement | null {
  return placementOf(facts.profile, parseScope(facts.row.reach, facts.row.target), token.method, token.value);
}

/** What a placement puts where, as it is handed out. */
export function whatToPut(placement: CorePlacement): WhatToPut {
  switch (placement.method) {
    case 'meta':
      return {
        kind: 'meta',
        page: placement.place,
        name: placement.name,
        content: placement.content,
        tag: placement.tag,
      };
    case 'file': {
      const { place, path, fileName, content, bytes } = placement;
      return { kind: 'file', url: place, path, fileName, content, bytes };
    }
    case 'dns': {
      const { zone, recordName, value, zoneLine } = placement;
      return { kind: 'dns', zone, recordName, type: 'TXT', value, zoneLine };
    }
  }
}
