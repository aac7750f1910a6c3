import { describe, expect, it } from 'vitest';
import { inOwnersWords, plainly } from '../../src/core/report/owner-words.js';

const ENGINE = { engine: 'Veldrane', reach: 'address', target: 'https://xn--bcher-kva.example/' } as const;

describe('what happened, in an owner’s words', () => {
  it.each([
    ['enrolled', 'Registered at Veldrane: https://bücher.example/.'],
    ['enrolled.again', 'Registered at Veldrane anew: https://bücher.example/.'],
    [
      'enrolment.adopted',
      'Registered at Veldrane before, and looked after from now on: https://bücher.example/.',
    ],
    ['enrolment.ended', 'No longer registered at Veldrane: https://bücher.example/.'],
    ['enrolment.missing', 'Veldrane has lost the registration of https://bücher.example/.'],
    ['claim.confirmed', 'Veldrane confirmed the ownership of https://bücher.example/.'],
    ['claim.refused', 'Veldrane did not confirm the ownership of https://bücher.example/ yet: “not found”.'],
    ['ownership.confirmed', 'Veldrane confirmed the ownership of https://bücher.example/.'],
    [
      'ownership.withdrawn',
      'Veldrane withdrew the proof of ownership of https://bücher.example/: “not found”.',
    ],
  ])('%s', (kind, says) => {
    expect(inOwnersWords({ ...ENGINE, kind, says: 'Veldrane … books@veldrane:address: “not found”.' })).toBe(
      says,
    );
  });

  it('a sitemap is submitted, in whatever form', () => {
    const says = 'https://a.example/s.xml was submitted to Veldrane as /s.xml.';
    expect(inOwnersWords({ ...ENGINE, kind: 'sitemap.submitted', says })).toBe(
      'https://a.example/s.xml was submitted to Veldrane.',
    );
  });

  it('a whole domain is called one, and a reason that nobody gave is not told', () => {
    const name = { ...ENGINE, reach: 'name', target: 'xn--bcher-kva.example', says: '' } as const;
    expect(inOwnersWords({ ...name, kind: 'ownership.withdrawn' })).toBe(
      'Veldrane withdrew the proof of ownership of the whole domain bücher.example.',
    );
  });

  it('what is about no enrolment stays as the journal says it, and so does a kind that is named like something else', () => {
    const none = { engine: null, reach: null, target: null };
    expect(
      inOwnersWords({ ...none, kind: 'sitemap.made', says: 'Made https://xn--bcher-kva.example/s.xml.' }),
    ).toBe('Made https://bücher.example/s.xml.');
    expect(inOwnersWords({ ...ENGINE, kind: 'toString', says: 'So.' })).toBe('So.');
  });

  it.each([
    [
      'The first engine may withdraw its badge from 2026-12-01 on.',
      'The first engine may withdraw the proof of ownership from 2026-12-01 on.',
    ],
    ['Sundrel’s token for ropes@sundrel:address expires.', 'Sundrel’s token for ropes expires.'],
    [
      'Write to saga@saltmarsh.example: address it well.',
      'Write to saga@saltmarsh.example: address it well.',
    ],
    ['The badge-maker’s page is gone.', 'The badge-maker’s page is gone.'],
    [`${'a'.repeat(100_000)}@`, `${'a'.repeat(100_000)}@`],
  ])('%.60s', (says, plain) => {
    expect(plainly(says)).toBe(plain);
  });
});
