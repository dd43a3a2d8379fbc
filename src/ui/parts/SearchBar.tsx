'use client';
/** Looks through a list: what is typed goes into the page's address, from where the server answers. */
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { Input, Label, SearchField } from 'react-aria-components';
import styled from 'styled-components';

const Root = styled(SearchField)`
  display: inline-flex; align-items: center; gap: 8px;
  .label { font-size: 13px; color: var(--soft); }
  input { border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); padding: 5px 9px; min-height: 34px; width: 260px; }`;

const PAUSE_MS = 250;

export function SearchBar({ label }: { label: string }) {
  const router = useRouter();
  const path = usePathname();
  const params = useSearchParams();
  const [text, setText] = useState(params.get('search') ?? '');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const look = (words: string) => {
    setText(words);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      const next = new URLSearchParams(window.location.search);
      next.delete('page');
      if (words.trim() === '') next.delete('search');
      else next.set('search', words.trim());
      router.replace(`${path}?${next}`);
    }, PAUSE_MS);
  };
  return (
    <Root value={text} onChange={look} maxLength={100}>
      <Label className="label">{label}</Label>
      <Input />
    </Root>
  );
}
