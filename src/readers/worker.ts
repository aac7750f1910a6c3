import { TASKS, type TaskName } from './tasks.js';

/** Runs in a worker thread: one task by its name. */
export function run({ name, given }: { name: TaskName; given: readonly unknown[] }): unknown {
  const task = TASKS[name] as (...given: readonly unknown[]) => unknown;
  return task(...given);
}
