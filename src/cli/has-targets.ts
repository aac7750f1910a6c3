import type { Context } from './context.js';

/** Whether anything of a property can be published. */
export async function hasTargets({ client }: Context, property: string): Promise<boolean> {
  return (await client.listTargets({ params: { property } })).items.length > 0;
}
