import { text } from 'node:stream/consumers';
import { readFile } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { parse } from 'yaml';
import { asKey, faultInWords } from '../../core/input/input-faults.js';
import { Explained } from '../../core/input/explained-error.js';
import { settingsSchema, type Settings } from './schema.js';

/** Settings that cannot be used, told by their keys. */
export class SettingsFault extends Explained {}

export interface Loaded {
  readonly settings: Settings;
  /** Where each value came from, by its key: `file`, `environment`, `flag` or `default`. */
  readonly origins: Readonly<Record<string, string>>;
}

type Tree = { [key: string]: unknown };

const PREFIX = 'YARDBADGE_';
/** Keys that the environment may set, as `YARDBADGE_NET_RESOLVER` for `net.resolver`. Lists are given as JSON. */
const KEYS = [
  'listen.host',
  'listen.port',
  'publicUrl',
  'trustProxy',
  'keyVariables',
  'plainLinks',
  'data',
  'clock',
  'engines',
  'keyFile',
  'log',
  'sitemaps.sample',
  'sitemaps.keepAll',
  'sitemaps.keepWeekly',
  'sitemaps.keepAddresses',
  'sitemaps.atOnce',
  'sitemaps.namespaces.images',
  'sitemaps.namespaces.videos',
  'sitemaps.namespaces.news',
  'claims',
  'publish.folders',
  'agency.name',
  'agency.colour',
  'agency.logo',
  'mail.host',
  'mail.port',
  'mail.security',
  'mail.user',
  'mail.passwordFrom',
  'mail.from',
  'watch.on',
  'watch.placement',
  'watch.variants',
  'watch.sitemap',
  'keep.checks',
  'keep.evidence',
  'keep.jobs',
  'keep.pieces',
  'keep.looks',
  'keep.messages',
  'keep.keys',
  'net.resolver',
  'net.allow',
  'net.connect',
  'net.ca',
  'net.agent',
  'net.bounds.connectMs',
  'net.bounds.hopMs',
  'net.bounds.bodyBytes',
  'net.bounds.headerBytes',
  'net.bounds.dnsMs',
];
/** Values that name a file or folder: relative to the configuration file where they stand in it. */
const PATHS = new Set(['data', 'clock', 'engines', 'keyFile', 'net.ca', 'agency.logo']);
const DEFAULT_FILE = 'yardbadge.yaml';
/** In place of a file: the configuration comes on standard input, and what it names is relative to the folder worked in. */
const PIPED = '-';

/**
 * Puts the configuration together: file, then environment, then flags; the later wins.
 * @param file where it stands; `-` for standard input
 * @param flags by key, such as `{ 'listen.port': '7000' }`
 * @throws SettingsFault that names each wrong key and where its value came from
 */
export async function loadSettings(
  file: string | undefined,
  env: NodeJS.ProcessEnv,
  flags: Readonly<Record<string, string | undefined>>,
): Promise<Loaded> {
  const origins: Record<string, string> = {};
  const tree: Tree = {};
  const fromFile = await readTree(file ?? env['YARDBADGE_CONFIG']);
  for (const key of KEYS) {
    const value = pick(fromFile.tree, key);
    if (value !== undefined)
      put(tree, key, rebased(key, value, fromFile.folder), origins, `file ${fromFile.name}`);
    const variable =
      PREFIX +
      key
        .replace(/([A-Z])/g, '_$1')
        .replace(/\./g, '_')
        .toUpperCase();
    const set = env[variable];
    if (set !== undefined) put(tree, key, fromText(set), origins, `environment ${variable}`);
    const flag = flags[key];
    if (flag !== undefined) put(tree, key, fromText(flag), origins, 'flag');
  }
  const unknown = leaves(fromFile.tree).filter(
    (leaf) => !KEYS.some((key) => leaf === key || leaf.startsWith(`${key}.`)),
  );
  const { value, error } = settingsSchema.validate(tree, {
    abortEarly: false,
    errors: { wrap: { label: false } },
  });
  const faults = [
    ...unknown.map((key) => `${fromFile.name}: ${key} is not a setting`),
    ...(error?.details ?? []).map(
      (detail) => `${faultInWords(detail, asKey)} (${originOf(origins, detail.path)})`,
    ),
  ];
  const { trustProxy = [], publicUrl = null } = (value ?? {}) as Partial<Settings>;
  // Else whoever asks says by X-Forwarded-Host where links lead that clients get.
  if (faults.length === 0 && trustProxy.length > 0 && publicUrl === null)
    faults.push(
      `trustProxy names a proxy, so publicUrl must say the address by which people come through it (${origins['trustProxy'] ?? 'default'})`,
    );
  if (faults.length > 0) throw new SettingsFault(faults.join('\n'));
  for (const key of KEYS) origins[key] ??= 'default';
  return { settings: value as Settings, origins };
}

async function readTree(file: string | undefined): Promise<{ tree: Tree; folder: string; name: string }> {
  const isPiped = file === PIPED;
  const name = isPiped ? 'standard input' : (file ?? DEFAULT_FILE);
  try {
    const tree: unknown = parse(isPiped ? await text(process.stdin) : await readFile(name, 'utf8')) ?? {};
    if (typeof tree !== 'object' || Array.isArray(tree))
      throw new SettingsFault(`${name}: expected keys and values`);
    return { tree: tree as Tree, folder: isPiped ? process.cwd() : dirname(resolve(name)), name };
  } catch (error) {
    if (error instanceof SettingsFault) throw error;
    const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
    if (missing && file === undefined) return { tree: {}, folder: process.cwd(), name };
    throw new SettingsFault(
      `${name}: ${missing ? 'there is no such file' : String((error as Error).message)}`,
    );
  }
}

function pick(tree: Tree, key: string): unknown {
  return key
    .split('.')
    .reduce<unknown>(
      (at, part) => (typeof at === 'object' && at !== null ? (at as Tree)[part] : undefined),
      tree,
    );
}

function put(tree: Tree, key: string, value: unknown, origins: Record<string, string>, origin: string): void {
  const parts = key.split('.');
  const last = parts.pop() ?? key;
  let at = tree;
  for (const part of parts) at = (at[part] ??= {}) as Tree;
  at[last] = value;
  origins[key] = origin;
}

function fromText(text: string): unknown {
  if (!/^[[{]/.test(text)) return text;
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

function rebased(key: string, value: unknown, folder: string): unknown {
  return PATHS.has(key) && typeof value === 'string' ? resolve(folder, value) : value;
}

function leaves(tree: Tree, prefix = ''): string[] {
  return Object.entries(tree).flatMap(([key, value]) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? leaves(value as Tree, `${prefix}${key}.`)
      : [`${prefix}${key}`],
  );
}

function originOf(origins: Readonly<Record<string, string>>, path: readonly (string | number)[]): string {
  const text = path.join('.');
  const key = KEYS.find((one) => text === one || text.startsWith(`${one}.`));
  return (key && origins[key]) ?? 'default';
}

/** Each setting in force, one line a key, and where it came from. */
export function tellSettings({ settings, origins }: Loaded): { key: string; value: string; from: string }[] {
  return KEYS.map((key) => ({
    key,
    value: JSON.stringify(pick(settings as unknown as Tree, key)),
    from: origins[key] ?? 'default',
  }));
}
