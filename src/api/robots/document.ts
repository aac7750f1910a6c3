/** What a robots.txt says to each engine, by which line. */
export interface RobotsShown {
  url: string;
  /** Null where nothing answered, and for a draft. */
  status: number | null;
  draft: boolean;
  text: string;
  verdicts: {
    address: string;
    agents: { title: string; allowed: boolean; group: string; rule: string | null; line: number | null }[];
  }[];
  faults: { line: number; text: string; says: string }[];
  /** What it should say, with the lines of the sitemaps; null where nothing is missing. */
  proposal: string | null;
  /** The SHA-256 of what stands there, in hexadecimal digits; null where nothing does. */
  stands: string | null;
}

/** A robots.txt that was written for a property, to be published. */
export interface RobotsKept {
  text: string;
  /** What it was made from and may take the place of (`stands`); null where nothing stood there. */
  over: string | null;
  at: string;
  by: string | null;
}
