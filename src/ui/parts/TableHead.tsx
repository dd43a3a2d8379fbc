/** Column heads of a table: plain ones for words, right-aligned ones for numbers. */

export type Column = string | { readonly number: string };

export function TableHead({ columns }: { columns: readonly Column[] }) {
  return (
    <thead>
      <tr>
        {columns.map((column) => {
          const isNumber = typeof column !== 'string';
          const text = isNumber ? column.number : column;
          return (
            <th key={text} scope="col" className={isNumber ? 'num' : undefined}>
              {text}
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
