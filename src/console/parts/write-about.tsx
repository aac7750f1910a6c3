import { Link } from 'react-router';

/** Steps that the client's people do by placing something. */
const ABOUT_TOKENS: ReadonlySet<string> = new Set(['place', 'repair', 'prove-again']);

/** Steps that they do at the website itself; a letter asks for all of that together. */
const ABOUT_WEBSITE: ReadonlySet<string> = new Set(['mend-site', 'renew', 'mend-sitemap']);

/** What the client's people are to place is asked of them by letter, about these enrolments alone. @param kind of the step */
export function WriteAbout({
  kind,
  property,
  enrolments,
}: {
  kind: string;
  property: string;
  enrolments: readonly string[];
}) {
  if (ABOUT_WEBSITE.has(kind))
    return (
      <Link to={`/properties/${property}?tab=sheet`} className="text-sm">
        Write about it
      </Link>
    );
  if (!ABOUT_TOKENS.has(kind) || enrolments.length === 0) return null;
  const about = encodeURIComponent(enrolments.join(' '));
  return (
    <Link to={`/properties/${property}?tab=sheet&about=${about}`} className="text-sm">
      Write about it
    </Link>
  );
}
