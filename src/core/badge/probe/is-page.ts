/** Whether a text is an HTML page, by how it begins. */
export function isPage(text: string): boolean {
  return /<(!doctype\s+html|html|head|body|pre|p|div)\b/iu.test(text.slice(0, 4096));
}
