import { mkdtempSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { createConfig, lintFromString } from '@redocly/openapi-core';
import openapiTS, { astToString, type OpenAPI3 } from 'openapi-typescript';
import ts from 'typescript';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';

/** What somebody writes who has nothing but the document: every address, key and answer is held by the generated types. */
const PROGRAM = `
import type { components, paths } from './api.js';

type Client = components['schemas']['Client'];
type Clients = paths['/api/v1/clients'];
type Added = Clients['post']['responses'][201]['content']['application/json'];
type Listed = Clients['get']['responses'][200]['content']['application/json'];
type Body = NonNullable<Clients['post']['requestBody']>['content']['application/json'];

export async function run(url: string, key: string): Promise<{ added: Client; names: string[]; code: string }> {
  const headers = { authorization: \`Bearer \${key}\`, 'content-type': 'application/json' };
  const body: Body = { name: 'Lantern & Sons', audience: ['FI'] };
  const added = (await (await fetch(url + '/api/v1/clients', { method: 'POST', headers, body: JSON.stringify(body) })).json()) as Added;
  const listed = (await (await fetch(url + '/api/v1/clients', { headers })).json()) as Listed;
  const again = await fetch(url + '/api/v1/clients/nobody', { headers });
  const problem = (await again.json()) as components['schemas']['Problem'];
  return { added, names: listed.items.map(({ name }) => name), code: problem.code };
}
`;

describe('the API for others', () => {
  let stage: Stage;
  let document: OpenAPI3;
  // Within the project, so that a program that is made here finds the types of the platform.
  const folder = mkdtempSync(fileURLToPath(new URL('../../.tmp-api-', import.meta.url)));
  beforeAll(async () => {
    stage = await openStage();
    document = (await (await fetch(`${stage.url}/api/openapi.json`)).json()) as OpenAPI3;
  });
  afterAll(async () => {
    await removed(folder);
    await stage.close();
  });

  it('is told in a document without a fault, each shape stated once', async () => {
    const config = await createConfig({
      extends: ['recommended'],
      // We tell nobody under which licence, and where else than here it is served.
      rules: { 'operation-4xx-response': 'off', 'info-license': 'off', 'no-server-example.com': 'off' },
    });
    const problems = await lintFromString({ source: JSON.stringify(document), config });
    expect(problems.map(({ ruleId, message, location }) => [ruleId, message, location[0]?.pointer])).toEqual(
      [],
    );
    const text = JSON.stringify(document);
    const names = Object.keys(document.components?.schemas ?? {});
    expect(names.length).toBeGreaterThan(35);
    expect(names.filter((name) => !text.includes(`"#/components/schemas/${name}"`))).toEqual([]);
    // Whole documents in each answer would be several times as much.
    const operations = Object.values(document.paths ?? {}).reduce(
      (sum, path) => sum + Object.keys(path ?? {}).length,
      0,
    );
    expect(text.length / operations).toBeLessThan(2_000);
  });

  it('gives a client by its document alone, which compiles and works', async () => {
    writeFileSync(join(folder, 'api.ts'), astToString(await openapiTS(document)));
    writeFileSync(join(folder, 'program.ts'), PROGRAM);
    writeFileSync(join(folder, 'package.json'), '{"type":"module"}');
    const program = ts.createProgram([join(folder, 'program.ts')], {
      strict: true,
      target: ts.ScriptTarget.ES2022,
      module: ts.ModuleKind.NodeNext,
      moduleResolution: ts.ModuleResolutionKind.NodeNext,
      lib: ['lib.es2023.d.ts', 'lib.dom.d.ts'],
      types: [],
      skipLibCheck: true,
    });
    const faults = [...ts.getPreEmitDiagnostics(program), ...program.emit().diagnostics];
    expect(faults.map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, '\n'))).toEqual([]);
    const { run } = (await import(pathToFileURL(join(folder, 'program.js')).href)) as {
      run: (url: string, key: string) => Promise<unknown>;
    };
    expect(await run(stage.url, stage.key)).toMatchObject({
      added: { name: 'Lantern & Sons', audience: ['FI'] },
      names: ['Lantern & Sons'],
      code: 'no-such-client',
    });
  });
});
