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

interface CurveListProps {
  readonly title: string;
  readonly add: string;
  readonly list: CurveText[];
  readonly problems: readonly (string | null)[];
  readonly onChange: (list: CurveText[]) => void;
}

export function CurveList({ title, add, list, problems, onChange }: CurveListProps) {
  return (
    <section aria-label={title}>
      <h2 style={{ marginTop: 14 }}>{title}</h2>
      {list.map((curve, i) => (
        <CurveItem
          key={i}
          curve={curve}
          problem={problems[i] ?? undefined}
          put={(change) => onChange(list.with(i, { ...curve, ...change }))}
          onRemove={() => onChange(list.filter((_, k) => k !== i))}
        />
      ))}
      <Bar>
        <Button isDisabled={list.length >= 12} onPress={() => onChange([...list, { name: '', text: '' }])}>
          {add}
        </Button>
      </Bar>
    </section>
  );
}

interface CurveItemProps {
  readonly curve: CurveText;
  readonly problem?: string;
  readonly put: (change: Partial<CurveText>) => void;
  readonly onRemove: () => void;
}

function CurveItem({ curve: { name, text }, problem, put, onRemove }: CurveItemProps) {
  const read = async (file: File | undefined) => {
    if (file) put({ text: file.size > MOST_BYTES ? `${file.name} is too large for a curve` : (await file.text()).trim() });
  };
  return (
    <Item>
      <Field label="Name" value={name} onChange={(words) => put({ name: words })} maxLength={60} />
      <TextArea
        label="Response: Hz dB, one pair a line"
        hint="Commas, semicolons, tabs or spaces between the two; a heading line is skipped."
        value={text}
        onChange={(words) => put({ text: words })}
        rows={4}
        error={problem}
      />
      <Bar style={{ marginTop: 0 }}>
        <FileTrigger acceptedFileTypes={['.csv', '.txt']} onSelect={(files) => void read(files?.[0])}>
          <Button>Read from a file</Button>
        </FileTrigger>
        <Button aria-label={`Remove ${name || 'this one'}`} onPress={onRemove}>
          Remove
        </Button>
      </Bar>
    </Item>
  );
}
