import type { Role } from '../parts/document.js';
import { route, type Input } from '../route.js';
import type { Key, NewKey, Person } from './document.js';

/** Signing in, people and their keys, and whether the service is up. */
export const peopleRoutes = {
  signIn: route<{ body: { name: string; password: string } }, { person: Person }>({
    method: 'POST',
    path: '/session',
    role: 'anyone',
    status: 200,
    summary: 'Sign in; sets the session cookie',
  }),
  signOut: route<Input, null>({
    method: 'DELETE',
    path: '/session',
    role: 'onlooker',
    status: 204,
    summary: 'Sign out',
  }),
  whoAmI: route<Input, { person: Person; now: string }>({
    method: 'GET',
    path: '/session',
    role: 'onlooker',
    status: 200,
    summary: 'Who is signed in, and the service’s time',
  }),
  health: route<Input, { status: 'up'; version: string; faults: number }>({
    method: 'GET',
    path: '/health',
    role: 'anyone',
    status: 200,
    summary: 'Whether the service is up, and how many errors reached its process since it started',
  }),
  addKey: route<{ body: { label: string; days?: number } }, NewKey>({
    method: 'POST',
    path: '/keys',
    role: 'onlooker',
    status: 201,
    summary: 'Make a bearer key for the command line or a script, for a year or so many days',
  }),
  listKeys: route<Input, { items: Key[] }>({
    method: 'GET',
    path: '/keys',
    role: 'onlooker',
    status: 200,
    summary: 'One’s own keys and sessions, with when each was used last',
  }),
  endKey: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/keys/:id',
    role: 'onlooker',
    status: 204,
    summary: 'End a key or a session of one’s own',
  }),
  listPersons: route<Input, { items: Person[] }>({
    method: 'GET',
    path: '/persons',
    role: 'consultant',
    status: 200,
    summary: 'Everybody who may sign in',
  }),
  addPerson: route<{ body: { name: string; role: Role; password: string } }, Person>({
    method: 'POST',
    path: '/persons',
    role: 'lead',
    status: 201,
    summary: 'Add a person',
  }),
  endPerson: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/persons/:id',
    role: 'lead',
    status: 204,
    summary: 'End a person’s access',
  }),
} as const;
