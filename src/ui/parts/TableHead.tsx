/** Column heads of a table: plain ones for words, right-aligned ones for numbers, and those that are only read aloud. */

export type Column = string | { readonly number: string } | { readonly unseen: string };

export function TableHead({ columns }: { columns: readonly Column[] }) {
  return (
    <thead>
      <tr>
        {columns.map((column) => {
          if (typeof column === 'string')
            return (
              <th key={column} scope="col">
                {column}
              </th>
            );
          if ('number' in column)
            return (
              <th key={column.number} scope="col" className="num">
                {column.number}
              </th>
            );
          return (
            <th key={column.unseen} scope="col">
              <span className="unseen">{column.unseen}</span>
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
