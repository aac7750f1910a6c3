import process from 'node:process';
import { Store } from '../dist/store/store.js';

/** Makes empty records where it is told, as whoever installs the service has them before it does anything. */
const [file = ''] = process.argv.slice(2);
const store = await Store.open(file);
await store.close();
process.send(null);
