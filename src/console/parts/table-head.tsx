/** The titles of a small table. @param className more, such as where it is hidden */
export function TableHead({ titles, className = '' }: { titles: readonly string[]; className?: string }) {
  return (
    <thead className={`text-faint ${className}`}>
      <tr>
        {titles.map((title) => (
          <th key={title} scope="col" className="pr-4">
            {title}
          </th>
        ))}
      </tr>
    </thead>
  );
}
