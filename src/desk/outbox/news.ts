import type { Transaction } from 'sequelize';
import type { PropertyRow } from '../../store/models/clients.js';
import { nowText, type Desk } from '../context/desk.js';

/** What came of something that was waited for: a token stands, a claim was confirmed or refused. */
export const NEWS_KINDS = ['stands', 'held', 'refused'] as const;
export type NewsKind = (typeof NEWS_KINDS)[number];

/** A piece of news as it is on record. */
export interface NewsValues {
  readonly id: string;
  readonly propertyId: string;
  readonly clientId: string;
  readonly kind: NewsKind;
  readonly enrolment: string;
  readonly says: string;
  readonly at: string;
  readonly toldAt: string | null;
}

/** Writes down what people are told of, once under an identifier. */
export async function recordNews(
  desk: Desk,
  {
    id,
    property,
    ...news
  }: Pick<NewsValues, 'id' | 'kind' | 'enrolment' | 'says'> & { readonly property: PropertyRow },
): Promise<void> {
  await desk.store.write((transaction) =>
    desk.store.run(
      `INSERT INTO news (id, propertyId, clientId, kind, enrolment, says, at) VALUES ($id, $propertyId, $clientId, $kind, $enrolment, $says, $at)
         ON CONFLICT (id) DO NOTHING`,
      { ...news, id, propertyId: property.id, clientId: property.clientId, at: nowText(desk) },
      transaction,
    ),
  );
}

export type NewsRow = NewsValues & { readonly handle: string };

/** News that nobody was told of yet and that nothing more is waited for, oldest first. */
export function untoldNews({ store }: Desk, settled: string, transaction: Transaction): Promise<NewsRow[]> {
  return store.select<NewsRow>(
    `SELECT n.*, p.handle FROM news n JOIN properties p ON p.id = n.propertyId
      WHERE n.toldAt IS NULL AND n.at <= $settled ORDER BY n.at, n.id LIMIT 500`,
    { settled },
    transaction,
  );
}

/** News of some time, oldest first. */
export function newsBetween(
  { store }: Desk,
  span: { readonly from: string; readonly to: string },
  transaction: Transaction,
): Promise<NewsRow[]> {
  return store.select<NewsRow>(
    `SELECT n.*, p.handle FROM news n JOIN properties p ON p.id = n.propertyId
      WHERE n.at > $from AND n.at <= $to ORDER BY n.at, n.id LIMIT 500`,
    { ...span },
    transaction,
  );
}
