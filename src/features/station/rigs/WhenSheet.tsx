'use client';
/** When a dial works: in which modes, and while which switches stand where. */
import type { ReactNode } from 'react';
import { DIAL_ROLES, type Dial, MODE_LABELS, MODES, type Mode, type RigProfile } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

/** When a dial works, in a few words. */
export function whenText(profile: RigProfile, { modes, needs }: Dial): string {
  const label = (id: string) => profile.dials.find((each) => each.id === id)?.label ?? id;
  const parts = [
    ...(modes ? [modes.map((mode) => mode.toUpperCase()).join(' ')] : []),
    ...(needs ?? []).map((need) => `${label(need.dial)} ${need.is.join('/')}`),
  ];
  return parts.length === 0 ? 'always' : parts.join(', ');
}

const ROLE_TEXTS: Record<(typeof DIAL_ROLES)[number], string> = {
  'mic-gain': 'mic gain',
  processor: 'processor switch',
  compression: 'amount of compression',
  'carrier-offset': 'carrier offset',
  'fm-width': 'FM width',
  power: 'power',
};

interface WhenProps {
  readonly profile: RigProfile;
  readonly dial: Dial;
  readonly change: (part: Partial<Dial>) => void;
}

export function WhenSheet({ profile, dial, change, onClose }: WhenProps & { readonly onClose: () => void }) {
  return (
    <Dialog title={`When ${dial.label} works`} isOpen onClose={onClose}>
      <Picker
        label="Condition"
        choices={[{ id: '', text: 'just a dial' }, ...DIAL_ROLES.map((id) => ({ id, text: ROLE_TEXTS[id] }))]}
        value={dial.role ?? ''}
        onChange={(id) => change({ role: id === '' ? undefined : (id as Dial['role']) })}
      />
      <ModesOf profile={profile} dial={dial} change={change} />
      <SwitchesOf profile={profile} dial={dial} change={change} />
      <p className="soft" style={{ marginTop: 10 }}>
        Nothing ticked under a switch means that the switch does not matter.
      </p>
      <Bar>
        <Button primary onPress={onClose}>
          Done
        </Button>
      </Bar>
    </Dialog>
  );
}

function ModesOf({ profile: { modes: all }, dial, change }: WhenProps) {
  const on = dial.modes ?? all;
  const toggle = (mode: Mode, isOn: boolean) => {
    const modes = MODES.filter((each) => (each === mode ? isOn : on.includes(each)));
    change({ modes: all.every((each) => modes.includes(each)) || modes.length === 0 ? undefined : modes });
  };
  return (
    <Group title="Modes">
      {MODES.filter((mode) => all.includes(mode)).map((mode) => (
        <Check key={mode} isSelected={on.includes(mode)} onChange={(isOn) => toggle(mode, isOn)}>
          {MODE_LABELS[mode]}
        </Check>
      ))}
    </Group>
  );
}

function SwitchesOf({ profile, dial, change }: WhenProps) {
  const needs = dial.needs ?? [];
  const isAt = (id: string, option: string) => needs.some((need) => need.dial === id && need.is.includes(option));
  const toggle = (id: string, option: string, isOn: boolean) => {
    const now = needs.find((need) => need.dial === id)?.is ?? [];
    const is = isOn ? [...now, option] : now.filter((each) => each !== option);
    change({ needs: [...needs.filter((need) => need.dial !== id), ...(is.length > 0 ? [{ dial: id, is }] : [])] });
  };
  return profile.dials.map(({ id, label, scale }) =>
    id === dial.id || scale.kind !== 'options' ? null : (
      <Group key={id} title={`Only while ${label} is`}>
        {scale.options.map((option) => (
          <Check key={option} isSelected={isAt(id, option)} onChange={(isOn) => toggle(id, option, isOn)}>
            {option}
          </Check>
        ))}
      </Group>
    ),
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div>
      <h3 style={{ margin: '12px 0 4px', fontSize: 15 }}>{title}</h3>
      <Bar style={{ marginTop: 0 }}>{children}</Bar>
    </div>
  );
}
