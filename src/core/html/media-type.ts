import { MIMEType } from 'whatwg-mimetype';

/** What a Content-Type says (MIME Sniffing standard §4): the type itself, and the charset where one is named. */
export interface MediaType {
  /** `text/html` */
  readonly essence: string;
  readonly charset: string | null;
}

/** Reads a Content-Type header. @returns null where there is none, or none that can be read */
export function mediaTypeOf(header: string | null): MediaType | null {
  const type = header === null ? null : MIMEType.parse(header);
  return type && { essence: type.essence, charset: type.parameters.get('charset') ?? null };
}
