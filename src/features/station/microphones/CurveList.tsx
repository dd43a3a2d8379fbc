'use client';
/** Named response curves as text: typed, pasted or read from a file. */
import { FileTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { TextArea } from '@/ui/parts/TextArea.tsx';

export interface CurveText {
  readonly name: string;
  readonly text: string;
}

const Item = styled.div`border: 1px solid var(--line); border-radius: 4px; padding: 10px 12px; margin: 8px 0; display: grid; gap: 8px; background: var(--sheet);`;
const MOST_BYTES = 200_000;

export function CurveList({
  title,
  add,
  list,
  problems,
  onChange,
}: {
  title: string;
  add: string;
  list: CurveText[];
  problems: readonly (string | null)[];
  onChange: (list: CurveText[]) => void;
}) {
  const put = (i: number, change: Partial<CurveText>) => onChange(list.with(i, { ...list[i], ...change }));
  return (
    <section aria-label={title}>
      <h2 style={{ marginTop: 14 }}>{title}</h2>
      {list.map(({ name, text }, i) => (
        <Item key={i}>
          <Field label="Name" value={name} onChange={(words) => put(i, { name: words })} maxLength={60} />
          <TextArea
            label="Response: Hz dB, one pair a line"
            hint="Commas, semicolons, tabs or spaces between the two; a heading line is skipped."
            value={text}
            onChange={(words) => put(i, { text: words })}
            rows={4}
            error={problems[i] ?? undefined}
          />
          <Bar style={{ marginTop: 0 }}>
            <FileTrigger
              acceptedFileTypes={['.csv', '.txt']}
              onSelect={async (files) => {
                const file = files?.[0];
                if (file) put(i, { text: file.size > MOST_BYTES ? `${file.name} is too large for a curve` : (await file.text()).trim() });
              }}
            >
              <Button>Read from a file</Button>
            </FileTrigger>
            <Button aria-label={`Remove ${name || 'this one'}`} onPress={() => onChange(list.filter((_, k) => k !== i))}>
              Remove
            </Button>
          </Bar>
        </Item>
      ))}
      <Bar>
        <Button isDisabled={list.length >= 12} onPress={() => onChange([...list, { name: '', text: '' }])}>
          {add}
        </Button>
      </Bar>
    </section>
  );
}
