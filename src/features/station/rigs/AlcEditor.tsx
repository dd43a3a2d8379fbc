'use client';
/** The ALC meter: what its end is marked, and between which marks speech peaks belong. */
import { ALC_SCHOOL_KEYS, ALC_SCHOOLS } from '@/core/advice/index.ts';
import type { RigProfile } from '@/core/rig/index.ts';
import { Bar } from '@/ui/parts/Button.tsx';
import { NumberField } from '@/ui/parts/NumberField.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

const OWN = { id: 'own', text: 'As typed', note: 'the end of the marked zone', zone: null } as const;
const CHOICES = [
  ...ALC_SCHOOL_KEYS.map((id) => ({ id, text: ALC_SCHOOLS[id].name, note: ALC_SCHOOLS[id].note, zone: ALC_SCHOOLS[id].zone })),
  OWN,
];

export function AlcEditor({ profile, set }: { profile: RigProfile; set: (change: Partial<RigProfile>) => void }) {
  const { alc } = profile;
  const full = alc.full ?? 1;
  const [low, high] = alc.zone;
  const round = (value: number) => Number(value.toFixed(4));
  const school = CHOICES.find(({ zone }) => zone?.[0] === low && zone[1] === high)?.id ?? 'own';
  return (
    <section aria-label="ALC meter">
      <h2>ALC meter</h2>
      <Bar>
        <NumberField
          label="End of its scale"
          value={full}
          range={[0.001, 10000]}
          onChange={(value) => set({ alc: { ...alc, full: value === 1 ? undefined : value } })}
        />
        <Picker
          label="Speech peaks belong"
          choices={CHOICES.map(({ id, text, note }) => ({ id, text, note }))}
          value={school}
          onChange={(id) => {
            const zone = CHOICES.find((each) => each.id === id)?.zone;
            if (zone) set({ alc: { ...alc, zone: [zone[0], zone[1]] } });
          }}
        />
        {([0, 1] as const).map((end) => (
          <NumberField
            key={end}
            label={end === 0 ? 'from' : 'to'}
            value={round(alc.zone[end] * full)}
            range={[0, full]}
            onChange={(value) => set({ alc: { ...alc, zone: alc.zone.with(end, round(value / full)) as [number, number] } })}
          />
        ))}
      </Bar>
    </section>
  );
}
