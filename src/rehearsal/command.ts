import type { EventGot, MailGot } from './post.js';

/** Sends one order to a running rehearsal. @returns what it says, and whether it did it */
export async function sendOrder(control: string, order: object): Promise<{ done: boolean; says: string }> {
  try {
    const response = await fetch(`${control}/orders`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(order),
    });
    const { says } = (await response.json()) as { says: string };
    return { done: response.ok, says };
  } catch {
    return { done: false, says: `The rehearsal does not answer at ${control}. “yardbadge demo” starts it.` };
  }
}

/** What a running rehearsal's people got. Throws where none answers. */
export async function getPost(
  control: string,
): Promise<{ readonly mails: readonly MailGot[]; readonly events: readonly EventGot[] }> {
  const response = await fetch(`${control}/post`);
  return (await response.json()) as { mails: MailGot[]; events: EventGot[] };
}
