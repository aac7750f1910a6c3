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
}
