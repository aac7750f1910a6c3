import type { Enrolment, Method, Placement } from '../api/documents.js';
import type { Client as Person } from '../client/client.js';
import { sendOrder } from './command.js';
import { orderFor } from './developer.js';
import type { World } from './world.js';
import { given } from '../api/given.js';

/** The people of the agency and what they do, one call each; the demo's story is made of these. */
export class Agency {
  constructor(
    protected readonly world: World,
    protected readonly marit: Person,
    protected readonly jonas: Person,
  ) {}

  /** Registers on the engine's pages, pastes what they show, and has one method placed. */
  protected async byHand(property: string, method: Method): Promise<void> {
    const enrolment = `${property}@brindle`;
    const target = await this.target(enrolment);
    const shown = await this.order({ do: 'page', engine: 'brindle', visit: { ask: 'register', target } });
    const line = shown
      .split('\n')
      .find((one) => (method === 'meta' ? one.startsWith('<meta') : one.startsWith('/')));
    await this.jonas.pasteToken({ params: { enrolment }, body: { text: line ?? shown, method } });
    await this.place(enrolment, method);
  }

  protected async target(enrolment: string): Promise<string> {
    return (await this.marit.showEnrolment({ params: { enrolment } })).target;
  }

  protected async claim(enrolment: string): Promise<void> {
    await this.jonas.finished(await this.jonas.claim({ body: { enrolments: [enrolment] } }));
  }

  protected async takeOn(
    name: string,
    client: string,
    audience: string[],
    address: string,
    handle: string,
  ): Promise<void> {
    await this.marit.addClient({ body: { name, handle: client, audience } });
    const property = await this.marit.addProperty({ body: { client, address, handle } });
    await this.marit.finished({ id: property.job });
  }

  protected async enrol(
    property: string,
    engines: string[],
    reach: 'name' | 'address',
    facts?: Record<string, string>,
  ): Promise<void> {
    const body = { properties: [property], engines, reach, ...given({ facts }) };
    await this.marit.finished(await this.marit.enrol({ body }));
  }

  /** One job for all that are got by one method: many small ones would keep the one who starts the demo waiting. */
  protected async tokens(enrolments: string | readonly string[], method?: Method): Promise<void> {
    const body = { enrolments: [enrolments].flat(), ...given({ method }) };
    await this.marit.finished(await this.marit.getTokens({ body }));
  }

  protected async check(property: string): Promise<void> {
    await this.jonas.finished(await this.jonas.check({ body: { enrolments: [property] } }));
  }

  protected async placement(enrolment: string, method: Method): Promise<Placement> {
    const found: Enrolment = await this.marit.showEnrolment({ params: { enrolment } });
    const placement = found.placements.find((one) => one.method === method);
    if (!placement) throw new Error(`${enrolment} has no token by ${method}`);
    return placement;
  }

  protected async place(enrolment: string, method: Method): Promise<void> {
    await this.order(orderFor(await this.placement(enrolment, method)));
  }

  protected async order(order: object): Promise<string> {
    const { done, says } = await sendOrder(this.world.control.url, order);
    if (!done) throw new Error(says);
    return says;
  }

  protected async later(ms: number): Promise<void> {
    await this.world.advance(ms);
  }
}
