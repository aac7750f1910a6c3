import process from 'node:process';
import { Store } from '../dist/store/store.js';

/** A process of its own that makes empty records where it is told. */
const [file = ''] = process.argv.slice(2);
const store = await Store.open(file);
await store.close();
process.send(null);
