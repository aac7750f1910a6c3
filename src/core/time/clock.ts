/** Where time comes from. One is injected at start; nothing else asks the machine what time it is. */
export interface Clock {
  now(): Date;
}
