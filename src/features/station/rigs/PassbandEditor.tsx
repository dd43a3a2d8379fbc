'use client';
/** The transmit passband of each mode: fixed, one of several choices, or two free edges. */
import { type Dial, MODE_LABELS, MODES, type RigProfile } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { NumberField } from '@/ui/parts/NumberField.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

type Passband = RigProfile['passbands'][number];

const KINDS = [
  { id: 'fixed', text: 'fixed' },
  { id: 'choice', text: 'one of several', note: 'a dial with named positions' },
  { id: 'edges', text: 'two free edges', note: 'a low-cut and a high-cut dial' },
] as const;

/** Two numbers in a name such as "300–2700". */
const edgesIn = (option: string): [number, number] => {
  const found = /(\d+)\D+(\d+)/.exec(option);
  return found ? [Number(found[1]), Number(found[2])] : [300, 2700];
};

const choiceEdges = (dial: Dial | undefined, known: readonly (readonly [string, number, number])[]): [string, number, number][] =>
  dial?.scale.kind === 'options'
    ? dial.scale.options.map((option) => {
        const old = known.find(([each]) => each === option);
        return old ? [old[0], old[1], old[2]] : [option, ...edgesIn(option)];
      })
    : [];

export function PassbandEditor({ profile, set }: { profile: RigProfile; set: (change: Partial<RigProfile>) => void }) {
  const { passbands, dials } = profile;
  const named = dials.filter(({ scale }) => scale.kind === 'options').map(({ id, label }) => ({ id, text: label }));
  const numeric = dials.filter(({ scale }) => scale.kind !== 'options').map(({ id, label }) => ({ id, text: label }));
  const put = (i: number, next: Passband) => set({ passbands: passbands.with(i, next) });
  const asKind = (kind: string, { modes }: Passband): Passband | null => {
    const dial =
      dials.find(({ stage, scale }) => stage === 'passband' && scale.kind === 'options') ?? dials.find(({ id }) => id === named[0]?.id);
    if (kind === 'fixed') return { kind, modes, edges: [300, 2700] };
    if (kind === 'choice') return dial ? { kind, modes, dial: dial.id, edges: choiceEdges(dial, []) } : null;
    return numeric.length > 1 ? { kind: 'edges', modes, low: numeric[0].id, high: numeric[1].id } : null;
  };
  return (
    <section aria-label="Passband">
      <h2>Transmit passband</h2>
      {passbands.map((passband, i) => (
        <div key={i} style={{ borderBottom: '1px solid var(--grid)', paddingBottom: 8 }}>
          <Bar>
            {MODES.filter((mode) => profile.modes.includes(mode)).map((mode) => (
              <Check
                key={mode}
                isSelected={passband.modes.includes(mode)}
                onChange={(isOn) => {
                  const modes = MODES.filter((each) => (each === mode ? isOn : passband.modes.includes(each)));
                  if (modes.length > 0) put(i, { ...passband, modes });
                }}
              >
                {MODE_LABELS[mode]}
              </Check>
            ))}
            <Picker
              inline
              label={`Kind of passband ${i + 1}`}
              choices={KINDS}
              value={passband.kind}
              onChange={(kind) => {
                const next = asKind(kind, passband);
                if (next) put(i, next);
              }}
            />
            <Button
              aria-label={`Remove passband ${i + 1}`}
              isDisabled={passbands.length < 2}
              onPress={() => set({ passbands: passbands.filter((_, k) => k !== i) })}
            >
              Remove
            </Button>
          </Bar>
          <Bar>
            {passband.kind === 'fixed' &&
              (['lower edge, Hz', 'upper edge, Hz'] as const).map((label, e) => (
                <NumberField
                  key={label}
                  label={label}
                  value={passband.edges[e]}
                  range={[10, 20000]}
                  onChange={(hz) => put(i, { ...passband, edges: passband.edges.with(e, hz) as [number, number] })}
                />
              ))}
            {passband.kind === 'edges' &&
              (['low', 'high'] as const).map((side) => (
                <Picker
                  key={side}
                  label={side === 'low' ? 'Low-cut dial' : 'High-cut dial'}
                  choices={numeric}
                  value={passband[side]}
                  onChange={(id) => put(i, { ...passband, [side]: id })}
                />
              ))}
            {passband.kind === 'choice' && (
              <>
                <Picker
                  label="Dial"
                  choices={named}
                  value={passband.dial}
                  onChange={(id) =>
                    put(i, {
                      ...passband,
                      dial: id,
                      edges: choiceEdges(
                        dials.find((dial) => dial.id === id),
                        passband.edges,
                      ),
                    })
                  }
                />
                <Button
                  onPress={() =>
                    put(i, {
                      ...passband,
                      edges: choiceEdges(
                        dials.find((dial) => dial.id === passband.dial),
                        passband.edges,
                      ),
                    })
                  }
                >
                  Take its positions
                </Button>
              </>
            )}
          </Bar>
          {passband.kind === 'choice' &&
            passband.edges.map(([option, low, high], e) => (
              <Bar key={option}>
                <span style={{ width: 110 }}>{option}</span>
                <NumberField
                  label={`${option}: from, Hz`}
                  value={low}
                  range={[10, 20000]}
                  onChange={(hz) => put(i, { ...passband, edges: passband.edges.with(e, [option, hz, high]) })}
                />
                <NumberField
                  label={`${option}: to, Hz`}
                  value={high}
                  range={[10, 20000]}
                  onChange={(hz) => put(i, { ...passband, edges: passband.edges.with(e, [option, low, hz]) })}
                />
              </Bar>
            ))}
        </div>
      ))}
      <Bar>
        <Button
          isDisabled={passbands.length >= 8}
          onPress={() => set({ passbands: [...passbands, { kind: 'fixed', modes: [profile.modes[0] ?? 'usb'], edges: [300, 2700] }] })}
        >
          Add a passband
        </Button>
      </Bar>
    </section>
  );
}
