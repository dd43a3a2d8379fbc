'use client';
/** The transmit passband of each mode: fixed, one of several choices, or two free edges. */
import { type Dial, MODE_LABELS, MODES, type RigProfile } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { NumberField } from '@/ui/parts/NumberField.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

type Passband = RigProfile['passbands'][number];
type OfKind<K extends Passband['kind']> = Extract<Passband, { kind: K }>;
type Put<P extends Passband> = (next: P) => void;

const RANGE_HZ = [10, 20000] as const;
const USUAL_HZ: [number, number] = [300, 2700];
const MOST_PASSBANDS = 8;

const KINDS = [
  { id: 'fixed', text: 'fixed' },
  { id: 'choice', text: 'one of several', note: 'a dial with named positions' },
  { id: 'edges', text: 'two free edges', note: 'a low-cut and a high-cut dial' },
] as const;

/** Two numbers in a name such as "300–2700". */
const edgesIn = (option: string): [number, number] => {
  const found = /(\d+)\D+(\d+)/.exec(option);
  return found ? [Number(found[1]), Number(found[2])] : USUAL_HZ;
};

const choiceEdges = (dial: Dial | undefined, known: readonly (readonly [string, number, number])[]): [string, number, number][] =>
  dial?.scale.kind === 'options'
    ? dial.scale.options.map((option) => {
        const old = known.find(([each]) => each === option);
        return old ? [old[0], old[1], old[2]] : [option, ...edgesIn(option)];
      })
    : [];

/** Dials with named positions, and those with numbers, as choices. */
function dialChoices({ dials }: RigProfile) {
  const choices = (isNamed: boolean) =>
    dials.filter(({ scale }) => (scale.kind === 'options') === isNamed).map(({ id, label }) => ({ id, text: label }));
  return { named: choices(true), numeric: choices(false) };
}

/** A passband turned into another kind; null where the radio has no dials for it. */
function asKind(profile: RigProfile, kind: string, { modes }: Passband): Passband | null {
  const { named, numeric } = dialChoices(profile);
  if (kind === 'fixed') return { kind, modes, edges: USUAL_HZ };
  if (kind === 'edges') return numeric.length > 1 ? { kind, modes, low: numeric[0].id, high: numeric[1].id } : null;
  const isChoice = ({ scale }: Dial) => scale.kind === 'options';
  const dial =
    profile.dials.find((each) => each.stage === 'passband' && isChoice(each)) ?? profile.dials.find(({ id }) => id === named[0]?.id);
  return dial ? { kind: 'choice', modes, dial: dial.id, edges: choiceEdges(dial, []) } : null;
}

export function PassbandEditor({ profile, set }: { profile: RigProfile; set: (change: Partial<RigProfile>) => void }) {
  const { passbands } = profile;
  const put = (i: number) => (next: Passband) => set({ passbands: passbands.with(i, next) });
  return (
    <section aria-label="Passband">
      <h2>Transmit passband</h2>
      {passbands.map((passband, i) => (
        <div key={i} style={{ borderBottom: '1px solid var(--grid)', paddingBottom: 8 }}>
          <Bar>
            <Modes profile={profile} passband={passband} put={put(i)} />
            <Picker
              inline
              label={`Kind of passband ${i + 1}`}
              choices={KINDS}
              value={passband.kind}
              onChange={(kind) => {
                const next = asKind(profile, kind, passband);
                if (next) put(i)(next);
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
          {passband.kind === 'fixed' && <Fixed passband={passband} put={put(i)} />}
          {passband.kind === 'edges' && <Edges profile={profile} passband={passband} put={put(i)} />}
          {passband.kind === 'choice' && <Choices profile={profile} passband={passband} put={put(i)} />}
        </div>
      ))}
      <Bar>
        <Button
          isDisabled={passbands.length >= MOST_PASSBANDS}
          onPress={() => set({ passbands: [...passbands, { kind: 'fixed', modes: [profile.modes[0] ?? 'usb'], edges: USUAL_HZ }] })}
        >
          Add a passband
        </Button>
      </Bar>
    </section>
  );
}

interface PartProps<P extends Passband> {
  readonly profile: RigProfile;
  readonly passband: P;
  readonly put: Put<P>;
}

function Modes({ profile, passband, put }: PartProps<Passband>) {
  return MODES.filter((mode) => profile.modes.includes(mode)).map((mode) => (
    <Check
      key={mode}
      isSelected={passband.modes.includes(mode)}
      onChange={(isOn) => {
        const modes = MODES.filter((each) => (each === mode ? isOn : passband.modes.includes(each)));
        if (modes.length > 0) put({ ...passband, modes });
      }}
    >
      {MODE_LABELS[mode]}
    </Check>
  ));
}

function Fixed({ passband, put }: Omit<PartProps<OfKind<'fixed'>>, 'profile'>) {
  return (
    <Bar>
      {(['lower edge, Hz', 'upper edge, Hz'] as const).map((label, e) => (
        <NumberField
          key={label}
          label={label}
          value={passband.edges[e]}
          range={RANGE_HZ}
          onChange={(hz) => put({ ...passband, edges: passband.edges.with(e, hz) as [number, number] })}
        />
      ))}
    </Bar>
  );
}

function Edges({ profile, passband, put }: PartProps<OfKind<'edges'>>) {
  const { numeric } = dialChoices(profile);
  return (
    <Bar>
      {(['low', 'high'] as const).map((side) => (
        <Picker
          key={side}
          label={side === 'low' ? 'Low-cut dial' : 'High-cut dial'}
          choices={numeric}
          value={passband[side]}
          onChange={(id) => put({ ...passband, [side]: id })}
        />
      ))}
    </Bar>
  );
}

function Choices({ profile, passband, put }: PartProps<OfKind<'choice'>>) {
  const { named } = dialChoices(profile);
  const from = (id: string) =>
    put({
      ...passband,
      dial: id,
      edges: choiceEdges(
        profile.dials.find((dial) => dial.id === id),
        passband.edges,
      ),
    });
  const edge = (e: number, side: 1 | 2, hz: number) =>
    put({ ...passband, edges: passband.edges.with(e, passband.edges[e].with(side, hz) as [string, number, number]) });
  return (
    <>
      <Bar>
        <Picker label="Dial" choices={named} value={passband.dial} onChange={from} />
        <Button onPress={() => from(passband.dial)}>Take its positions</Button>
      </Bar>
      {passband.edges.map(([option, low, high], e) => (
        <Bar key={option}>
          <span style={{ width: 110 }}>{option}</span>
          <NumberField label={`${option}: from, Hz`} value={low} range={RANGE_HZ} onChange={(hz) => edge(e, 1, hz)} />
          <NumberField label={`${option}: to, Hz`} value={high} range={RANGE_HZ} onChange={(hz) => edge(e, 2, hz)} />
        </Bar>
      ))}
    </>
  );
}
