/** Marks again even what is marked, as the triggers of 0008 do. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/** What is to be carried is a step of its own: places, what was carried there and what was made are facts of where a property stands. */
export const toCarry = {
  name: '0028-to-carry',
  up: [
    ...(
      [
        ['carry_places', 'INSERT', 'NEW'],
        ['carry_places', 'UPDATE OF endedAt', 'NEW'],
        ['made_versions', 'INSERT', 'NEW'],
        ['made_versions', 'UPDATE OF heldBack', 'NEW'],
        ['made_versions', 'DELETE', 'OLD'],
      ] as const
    ).map(
      ([table, event, row]) =>
        `CREATE TRIGGER ${table}_${event.split(' ')[0]?.toLowerCase() ?? ''}_stale AFTER ${event} ON ${table} BEGIN
           INSERT INTO stale (propertyId, mark) VALUES (${row}.propertyId, random()) ${MARK}; END`,
    ),
    ...(
      [
        ['INSERT', 'NEW'],
        ['UPDATE OF removedAt', 'NEW'],
        ['DELETE', 'OLD'],
      ] as const
    ).map(
      ([event, row]) =>
        `CREATE TRIGGER carried_${event.split(' ')[0]?.toLowerCase() ?? ''}_stale AFTER ${event} ON carried BEGIN
           INSERT INTO stale (propertyId, mark) SELECT propertyId, random() FROM carry_places WHERE id = ${row}.placeId ${MARK}; END`,
    ),
  ],
};
