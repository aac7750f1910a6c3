import { expect, test } from 'vitest';
import { Problem } from '../../src/api/problems.js';
import { exitFor } from '../../src/cli/exit.js';
import { ApiProblem, NotReached } from '../../src/client/client.js';
import { ProfileFault } from '../../src/engines/profiles.js';
import { SettingsFault } from '../../src/service/settings/load.js';
import { RecordsFault } from '../../src/store/records-fault.js';

const problem = (code: string, status: number) =>
  new ApiProblem({ type: '', title: '', status, code, detail: 'It is so.' } as never);

test.each<[string, unknown, number | undefined]>([
  ['settings that cannot be used', new SettingsFault('x'), 2],
  ['a profile that cannot be used', new ProfileFault(['x']), 2],
  ['records that cannot be opened', new RecordsFault('x'), 2],
  ['a problem found before anything was sent', new Problem('internal'), 2],
  ['what does not fit', problem('bad-input', 400), 2],
  ['somebody who may not', problem('not-allowed', 403), 3],
  ['a service that is not there', new NotReached('http://127.0.0.1:1'), 4],
  ['what stands before a service that is not there', problem('unknown', 502), 4],
  ['an engine that says no', problem('engine-refused', 502), 5],
  ['a wait that an engine asks for', problem('engine-waits', 503), 1],
  ['a fault of the service', problem('internal', 500), 6],
  ['a full disk', problem('records-full', 507), 6],
  ['what nobody foresaw', new TypeError('x'), undefined],
])('the exit status of %s', (_, error, status) => {
  expect(exitFor(error)?.status).toBe(status);
});
