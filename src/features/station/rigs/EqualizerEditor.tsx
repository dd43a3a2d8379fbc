'use client';
/** Which dials make the equalizer, and what its width number means. */
import styled from 'styled-components';
import { type Equalizer, type RigProfile, SHAPE_LABELS, type Shape } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { NumberField } from '@/ui/parts/NumberField.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { TextArea } from '@/ui/parts/TextArea.tsx';
import type { RigAction } from './rigDraft.ts';

const Kind = styled.div`margin-bottom: 8px;`;
const Bank = styled.div`margin: 12px 0 14px; .name { width: 160px; }`;

const MEANINGS = [
  { id: 'unknown', text: 'unknown', note: 'both readings are then shown side by side' },
  { id: 'octaves', text: 'octaves', note: 'a larger number is wider' },
  { id: 'q', text: 'Q', note: 'a larger number is narrower' },
  { id: 'table', text: 'a table', note: 'what each number is in octaves' },
] as const;

const BELLS = [
  { id: 'unknown', text: 'not known', note: 'taken for the mirror image of a lift until overs tell' },
  { id: 'mirrored', text: 'the mirror image of a lift', note: 'both as wide as the number says' },
  { id: 'resonance', text: 'narrower than a lift', note: 'a resonance, added or taken away' },
] as const;

type Act = (action: RigAction) => void;

interface PartProps<Kind extends Equalizer['kind']> {
  readonly equalizer: Extract<Equalizer, { kind: Kind }>;
  readonly act: Act;
  readonly set: (next: Equalizer) => void;
  /** Dials that can be a level. */
  readonly levels: readonly { readonly id: string; readonly text: string }[];
}

export function EqualizerEditor({ profile, act }: { profile: RigProfile; act: Act }) {
  const { equalizer } = profile;
  const set = (next: Equalizer) => act({ kind: 'set', change: { equalizer: next } });
  const levels = profile.dials.filter(({ scale }) => scale.kind !== 'options').map(({ id, label }) => ({ id, text: label }));
  const part = { act, set, levels };
  return (
    <section aria-label="Equalizer">
      <h2>Equalizer</h2>
      <Kind>
        <Picker
          label="Kind (another kind brings dials of its own)"
          choices={(['parametric', 'graphic', 'tone', 'none'] as const).map((id) => ({ id, ...SHAPE_LABELS[id] }))}
          value={equalizer.kind}
          onChange={(shape) => {
            if (shape === equalizer.kind) return;
            const hasProcessor = profile.dials.some(({ id }) => id === 'processor');
            act({ kind: 'equalizer', shape: shape as Shape, bands: shape === 'graphic' ? 8 : 3, hasTwoBanks: hasProcessor });
          }}
        />
      </Kind>
      {equalizer.kind === 'tone' && <Tone equalizer={equalizer} {...part} />}
      {equalizer.kind === 'graphic' && <Graphic equalizer={equalizer} {...part} />}
      {equalizer.kind === 'parametric' && <Parametric equalizer={equalizer} {...part} />}
    </section>
  );
}

function Tone({ equalizer, set, levels }: PartProps<'tone'>) {
  return (['bass', 'treble'] as const).map((side) => {
    const put = (change: Partial<(typeof equalizer)['bass']>) => set({ ...equalizer, [side]: { ...equalizer[side], ...change } });
    return (
      <Bar key={side}>
        <Picker
          label={side === 'bass' ? 'Bass dial' : 'Treble dial'}
          choices={levels}
          value={equalizer[side].level}
          onChange={(level) => put({ level })}
        />
        <NumberField label="corner, Hz" value={equalizer[side].hz} range={[20, 20000]} onChange={(hz) => put({ hz })} />
      </Bar>
    );
  });
}

function Graphic({ equalizer, act, set, levels }: PartProps<'graphic'>) {
  const { bands, octaves } = equalizer;
  const put = (i: number, change: Partial<(typeof bands)[number]>) =>
    set({ ...equalizer, bands: bands.with(i, { ...bands[i], ...change }) });
  return (
    <>
      <NumberField
        label="Slider width, octaves"
        value={octaves}
        range={[0.1, 4]}
        onChange={(wanted) => set({ ...equalizer, octaves: wanted })}
      />
      <Scroll>
        <Table>
          <TableHead columns={['frequency, Hz', 'dial', { unseen: 'remove' }]} />
          <tbody>
            {bands.map(({ level, hz }, i) => (
              <tr key={level}>
                <td style={{ width: 150 }}>
                  <NumberField
                    label={`Frequency of slider ${i + 1}`}
                    hideLabel
                    value={hz}
                    range={[20, 20000]}
                    onChange={(wanted) => put(i, { hz: wanted })}
                  />
                </td>
                <td>
                  <Picker
                    inline
                    label={`Dial of slider ${i + 1}`}
                    choices={levels}
                    value={level}
                    onChange={(id) => put(i, { level: id })}
                  />
                </td>
                <td>
                  <Remove
                    what={`slider ${i + 1}`}
                    isLast={bands.length < 2}
                    onPress={() => act({ kind: 'removeBand', bank: 0, band: i })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      <Bar>
        <Button isDisabled={bands.length > 30} onPress={() => act({ kind: 'addBand', bank: 0 })}>
          Add a slider
        </Button>
      </Bar>
    </>
  );
}

function Remove({ what, isLast, onPress }: { what: string; isLast: boolean; onPress: () => void }) {
  return (
    <Button aria-label={`Remove ${what}`} isDisabled={isLast} onPress={onPress}>
      Remove
    </Button>
  );
}

function Parametric({ equalizer, ...part }: PartProps<'parametric'>) {
  const { width, banks } = equalizer;
  const { set } = part;
  const mean = (meaning: (typeof MEANINGS)[number]['id']) =>
    set({ ...equalizer, width: meaning === 'table' ? { meaning, table: width.table ?? [[1, 1]] } : { meaning } });
  const shape = (id: (typeof BELLS)[number]['id']) => {
    const { bells: _, ...rest } = equalizer;
    set(id === 'unknown' ? rest : { ...rest, bells: id });
  };
  return (
    <>
      <Bar style={{ marginTop: 10 }}>
        <Picker
          label="What the width number means"
          choices={MEANINGS}
          value={width.meaning}
          onChange={(id) => mean(id as (typeof MEANINGS)[number]['id'])}
        />
        <Picker
          label="A cut is"
          choices={BELLS}
          value={equalizer.bells ?? 'unknown'}
          onChange={(id) => shape(id as (typeof BELLS)[number]['id'])}
        />
      </Bar>
      {width.meaning === 'table' && (
        <WidthTable rows={width.table ?? []} onChange={(table) => set({ ...equalizer, width: { meaning: 'table', table } })} />
      )}
      {banks.map((_, index) => (
        <BankEditor key={index} equalizer={equalizer} index={index} {...part} />
      ))}
    </>
  );
}

function BankEditor({ equalizer, index, act, set, levels }: PartProps<'parametric'> & { readonly index: number }) {
  const bank = equalizer.banks[index];
  const put = (change: Partial<typeof bank>) => set({ ...equalizer, banks: equalizer.banks.with(index, { ...bank, ...change }) });
  const isNamed = equalizer.banks.length > 1;
  const ofBank = (joint: string) => (isNamed ? ` ${joint} bank ${bank.name}` : '');
  return (
    <Bank>
      {isNamed && (
        <div className="name">
          <Field label={`Name of bank ${index + 1}`} value={bank.name} onChange={(name) => put({ name })} maxLength={24} />
        </div>
      )}
      <Scroll>
        <Table>
          <TableHead columns={['band', 'centre', 'level', 'width', { unseen: 'remove' }]} />
          <tbody>
            {bank.bands.map((band, i) => (
              <tr key={band.level}>
                <td>{i + 1}</td>
                {(['centre', 'level', 'width'] as const).map((part) => (
                  <td key={part}>
                    {typeof band[part] === 'number' ? (
                      `fixed at ${band[part]}`
                    ) : (
                      <Picker
                        inline
                        label={`${part} dial of band ${i + 1}${ofBank('in')}`}
                        choices={levels}
                        value={String(band[part])}
                        onChange={(id) => put({ bands: bank.bands.with(i, { ...band, [part]: id }) })}
                      />
                    )}
                  </td>
                ))}
                <td>
                  <Remove
                    what={`band ${i + 1}${ofBank('of')}`}
                    isLast={bank.bands.length < 2}
                    onPress={() => act({ kind: 'removeBand', bank: index, band: i })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      <Bar>
        <Button isDisabled={bank.bands.length > 9} onPress={() => act({ kind: 'addBand', bank: index })}>
          Add a band{ofBank('to')}
        </Button>
      </Bar>
    </Bank>
  );
}

function WidthTable({ rows, onChange }: { rows: readonly (readonly [number, number])[]; onChange: (rows: [number, number][]) => void }) {
  const lines = rows.map((row) => row.join(' ')).join('\n');
  return (
    <TextArea
      label="Width number and octaves, one pair a line"
      defaultValue={lines}
      rows={4}
      onChange={(text) => {
        const pairs = text
          .split('\n')
          .map((line) =>
            line
              .trim()
              .split(/\s*[,;\t]\s*|\s+/)
              .map(Number),
          )
          .filter((pair) => pair.length === 2 && pair.every(Number.isFinite) && pair[1] > 0);
        if (pairs.length > 0) onChange(pairs as [number, number][]);
      }}
    />
  );
}
