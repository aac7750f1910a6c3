import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, type Stage } from '../support/stage.js';

/** Underscores and percent signs are signs like others for who looks for something by a part of it. */
describe('a website whose address has an underscore', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    await marit.addClient({ body: { name: 'Tide_Tables of the Sound', handle: 'tides' } });
    await marit.addClient({ body: { name: 'Tidextables', handle: 'other' } });
    for (const [handle, address] of [
      ['own', 'https://www.saltmarsh-ferries.example/my_page/'],
      ['likeit', 'https://www.saltmarsh-ferries.example/myxpage/'],
    ] as const) {
      const { job } = await marit.addProperty({ body: { client: 'tides', address, handle } });
      await marit.finished({ id: job });
    }
  });
  afterAll(() => stage.close());

  it('is found by that part of it, and nothing else is', async () => {
    const { marit } = stage;
    const found = async (match: string) =>
      (await marit.listProperties({ query: { match } })).items.map(({ handle }) => handle);
    expect(await found('MY_page')).toEqual(['own']);
    expect(await found('my%page')).toEqual([]);
    expect(
      (await marit.yard({ query: { match: 'my_page' } })).items.map(({ property }) => property.handle),
    ).toEqual(['own']);
    expect((await marit.showProperty({ params: { property: 'my_page' } })).handle).toBe('own');
    expect((await marit.showClient({ params: { client: 'tide_tables' } })).handle).toBe('tides');
  });

  it('is restored by the handle that it had', async () => {
    const { marit } = stage;
    await marit.archiveProperty({ params: { property: 'own' }, query: { anyway: true } });
    await marit.restoreProperty({ params: { property: 'OWN' } });
    expect((await marit.showProperty({ params: { property: 'own' } })).handle).toBe('own');
  });
});
