import type { Command } from 'commander';
import { GLOSSARY } from '../api/glossary.js';

/** What the words mean that a command's own help uses and nobody could guess; nothing where there are none. */
export function wordsIn(command: Command): string {
  const help = [
    command.description(),
    ...command.options.map(({ description }) => description),
    ...command.commands.map((one) => one.description()),
  ].join(' ');
  const used = GLOSSARY.filter(({ word }) => new RegExp(`\\b${word}s?\\b`, 'iu').test(help));
  if (used.length === 0) return '';
  return ['', 'Words:', ...used.map(({ word, means }) => `  ${word}: ${means}`)].join('\n');
}
