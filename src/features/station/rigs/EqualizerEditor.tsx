'use client';
/** Which dials make the equalizer, and what its width number means. */
import styled from 'styled-components';
import { type Equalizer, type RigProfile, SHAPE_LABELS, type Shape } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { NumberField } from '@/ui/parts/NumberField.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
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

type Act = (action: RigAction) => void;

export function EqualizerEditor({ profile, act }: { profile: RigProfile; act: Act }) {
  const { equalizer } = profile;
  const set = (next: Equalizer) => act({ kind: 'set', change: { equalizer: next } });
  const levels = profile.dials.filter(({ scale }) => scale.kind !== 'options').map(({ id, label }) => ({ id, text: label }));
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
      {equalizer.kind === 'tone' &&
        (['bass', 'treble'] as const).map((side) => (
          <Bar key={side}>
            <Picker
              label={side === 'bass' ? 'Bass dial' : 'Treble dial'}
              choices={levels}
              value={equalizer[side].level}
              onChange={(level) => set({ ...equalizer, [side]: { ...equalizer[side], level } })}
            />
            <NumberField
              label="corner, Hz"
              value={equalizer[side].hz}
              range={[20, 20000]}
              onChange={(hz) => set({ ...equalizer, [side]: { ...equalizer[side], hz } })}
            />
          </Bar>
        ))}
      {equalizer.kind === 'graphic' && (
        <>
          <NumberField
            label="Slider width, octaves"
            value={equalizer.octaves}
            range={[0.1, 4]}
            onChange={(octaves) => set({ ...equalizer, octaves })}
          />
          <Scroll>
            <Table>
              <thead>
                <tr>
                  <th>frequency, Hz</th>
                  <th>dial</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {equalizer.bands.map((band, i) => (
                  <tr key={band.level}>
                    <td style={{ width: 150 }}>
                      <NumberField
                        label={`Frequency of slider ${i + 1}`}
                        hideLabel
                        value={band.hz}
                        range={[20, 20000]}
                        onChange={(hz) => set({ ...equalizer, bands: equalizer.bands.with(i, { ...band, hz }) })}
                      />
                    </td>
                    <td>
                      <Picker
                        inline
                        label={`Dial of slider ${i + 1}`}
                        choices={levels}
                        value={band.level}
                        onChange={(level) => set({ ...equalizer, bands: equalizer.bands.with(i, { ...band, level }) })}
                      />
                    </td>
                    <td>
                      <Button
                        aria-label={`Remove slider ${i + 1}`}
                        isDisabled={equalizer.bands.length < 2}
                        onPress={() => act({ kind: 'removeBand', bank: 0, band: i })}
                      >
                        Remove
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
          <Bar>
            <Button isDisabled={equalizer.bands.length > 30} onPress={() => act({ kind: 'addBand', bank: 0 })}>
              Add a slider
            </Button>
          </Bar>
        </>
      )}
      {equalizer.kind === 'parametric' && <Parametric profile={profile} equalizer={equalizer} act={act} set={set} levels={levels} />}
    </section>
  );
}

function Parametric({
  equalizer,
  act,
  set,
  levels,
}: {
  profile: RigProfile;
  equalizer: Extract<Equalizer, { kind: 'parametric' }>;
  act: Act;
  set: (next: Equalizer) => void;
  levels: readonly { readonly id: string; readonly text: string }[];
}) {
  const { width, banks } = equalizer;
  return (
    <>
      <div style={{ marginTop: 10 }}>
        <Picker
          label="What the width number means"
          choices={MEANINGS}
          value={width.meaning}
          onChange={(meaning) =>
            set({
              ...equalizer,
              width:
                meaning === 'table' ? { meaning, table: width.table ?? [[1, 1]] } : { meaning: meaning as (typeof MEANINGS)[number]['id'] },
            })
          }
        />
      </div>
      {width.meaning === 'table' && (
        <WidthTable rows={width.table ?? []} onChange={(table) => set({ ...equalizer, width: { meaning: 'table', table } })} />
      )}
      {banks.map((bank, b) => (
        <Bank key={b}>
          {banks.length > 1 && (
            <div className="name">
              <Field
                label={`Name of bank ${b + 1}`}
                value={bank.name}
                onChange={(name) => set({ ...equalizer, banks: banks.with(b, { ...bank, name }) })}
                maxLength={24}
              />
            </div>
          )}
          <Scroll>
            <Table>
              <thead>
                <tr>
                  <th>band</th>
                  <th>centre</th>
                  <th>level</th>
                  <th>width</th>
                  <th />
                </tr>
              </thead>
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
                            label={`${part} dial of band ${i + 1}${banks.length > 1 ? ` in bank ${bank.name}` : ''}`}
                            choices={levels}
                            value={String(band[part])}
                            onChange={(id) =>
                              set({ ...equalizer, banks: banks.with(b, { ...bank, bands: bank.bands.with(i, { ...band, [part]: id }) }) })
                            }
                          />
                        )}
                      </td>
                    ))}
                    <td>
                      <Button
                        aria-label={`Remove band ${i + 1}${banks.length > 1 ? ` of bank ${bank.name}` : ''}`}
                        isDisabled={bank.bands.length < 2}
                        onPress={() => act({ kind: 'removeBand', bank: b, band: i })}
                      >
                        Remove
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
          <Bar>
            <Button isDisabled={bank.bands.length > 9} onPress={() => act({ kind: 'addBand', bank: b })}>
              Add a band{banks.length > 1 ? ` to bank ${bank.name}` : ''}
            </Button>
          </Bar>
        </Bank>
      ))}
    </>
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
