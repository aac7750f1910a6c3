import type { Context } from './context.js';

/** Whether anything of a property can be carried to where it belongs. */
export async function hasTargets({ client }: Context, property: string): Promise<boolean> {
  return (await client.listCarryPlaces({ params: { property } })).items.length > 0;
}
