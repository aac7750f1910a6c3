/**
 * The countries in what somebody typed: parted by commas, semicolons or lines, so that a name may have blanks in it; or by blanks, where
 * all that is there are codes.
 * @example countriesTyped('FI, United Kingdom') → ['FI', 'United Kingdom']; countriesTyped('FI EE') → ['FI', 'EE']
 */
export function countriesTyped(text: string): string[] {
  const words = text.trim().split(/[\s,;]+/u);
  const parts = words.every((word) => word.length === 2) ? words : text.split(/[,;\n]/u);
  return parts.map((part) => part.trim()).filter((part) => part !== '');
}
