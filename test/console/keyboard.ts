import type { Page } from 'playwright-core';

/** More steps than this nobody takes to reach something. */
const MOST_STEPS = 150;

/** What has the focus, as it is called: by its label, its own text, or what it says for readers. */
function focused(page: Page): Promise<{ role: string; name: string }> {
  return page.evaluate(() => {
    const one = document.activeElement;
    if (!(one instanceof HTMLElement)) return { role: '', name: '' };
    const label =
      one instanceof HTMLInputElement ||
      one instanceof HTMLSelectElement ||
      one instanceof HTMLTextAreaElement
        ? (one.labels?.[0]?.textContent ?? '')
        : '';
    const name = one.getAttribute('aria-label') ?? (label === '' ? (one.textContent ?? '') : label);
    return { role: one.getAttribute('role') ?? one.tagName.toLowerCase(), name: name.trim() };
  });
}

/** Someone who has a keyboard and nothing else. */
export class Keyboard {
  constructor(private readonly page: Page) {}

  /** Goes on with Tab until something of that name has the focus. */
  async to(name: string): Promise<void> {
    const met: string[] = [];
    for (let step = 0; step < MOST_STEPS; step += 1) {
      await this.page.keyboard.press('Tab');
      const now = await focused(this.page);
      if (now.name === name || now.name.startsWith(`${name}\n`)) return;
      met.push(now.name.slice(0, 40));
    }
    throw new Error(`Tab never came to “${name}”, but to ${[...new Set(met)].join(' | ')}`);
  }

  /** Goes there, and presses it. */
  async press(name: string): Promise<void> {
    await this.to(name);
    await this.page.keyboard.press('Enter');
  }

  /** Goes to a field, and types into it in place of what is there. */
  async fill(label: string, text: string): Promise<void> {
    await this.to(label);
    await this.page.keyboard.press('Control+A');
    await this.page.keyboard.press('Delete');
    await this.page.keyboard.type(text);
  }

  /** Goes to a list of choices, and chooses by the first letters. */
  async choose(label: string, start: string): Promise<void> {
    await this.to(label);
    await this.page.keyboard.type(start);
  }

  escape(): Promise<void> {
    return this.page.keyboard.press('Escape');
  }
}
