'use client';
/** Steps through the pages of a list. */
import { useSearchParams } from 'next/navigation';
import { Bar, ButtonLink } from './Button.tsx';

export function Paging({ page, pages, path }: { page: number; pages: number; path: string }) {
  const params = useSearchParams();
  if (pages < 2) return null;
  const to = (number: number) => {
    const next = new URLSearchParams(params);
    next.set('page', String(number));
    return `${path}?${next}`;
  };
  return (
    <Bar as="nav" aria-label="Pages" className="no-print">
      {page > 1 && <ButtonLink href={to(page - 1)}>Newer</ButtonLink>}
      <span className="soft">
        page {page} of {pages}
      </span>
      {page < pages && <ButtonLink href={to(page + 1)}>Older</ButtonLink>}
    </Bar>
  );
}
