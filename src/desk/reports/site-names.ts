import { hostsForPeople } from '../../core/address/host.js';
import { parseAddress } from '../../core/address/web-address.js';
import { PropertyRow } from '../../store/models/clients.js';

/**
 * What a client's owner calls their websites: by the host at which people arrive, with the path where several are on one. Handles are ours.
 * @returns names by handle; of all clients together each handle as it is, since it is read by those who gave it
 */
export async function siteNames(clientId: string | null): Promise<(handle: string) => string> {
  if (clientId === null) return (handle) => handle;
  const rows = await PropertyRow.findAll({
    where: { clientId },
    attributes: ['handle', 'frontDoor', 'address'],
  });
  const sites = rows.map(({ handle, frontDoor, address }) => {
    const { host, path } = parseAddress(frontDoor ?? address);
    return { handle, host, path };
  });
  const names = new Map(
    sites.map(({ handle, host, path }) => {
      const isAlone = sites.filter((one) => one.host === host).length === 1;
      return [handle, hostsForPeople(isAlone || path === '/' ? host : `${host}${path}`)];
    }),
  );
  return (handle) => names.get(handle) ?? handle;
}
