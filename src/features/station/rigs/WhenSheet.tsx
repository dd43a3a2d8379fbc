'use client';
/** When a dial works: in which modes, and while which switches stand where. */
import { DIAL_ROLES, type Dial, MODE_LABELS, MODES, type RigProfile } from '@/core/rig/index.ts';
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

export function WhenSheet({
  profile,
  dial,
  change,
  onClose,
}: {
  profile: RigProfile;
  dial: Dial;
  change: (part: Partial<Dial>) => void;
  onClose: () => void;
}) {
  const switches = profile.dials.filter(({ id, scale }) => id !== dial.id && scale.kind === 'options');
  const needs = dial.needs ?? [];
  const isAt = (id: string, option: string) => needs.some((need) => need.dial === id && need.is.includes(option));
  const toggle = (id: string, option: string, isOn: boolean) => {
    const now = needs.find((need) => need.dial === id)?.is ?? [];
    const is = isOn ? [...now, option] : now.filter((each) => each !== option);
    change({ needs: [...needs.filter((need) => need.dial !== id), ...(is.length > 0 ? [{ dial: id, is }] : [])] });
  };
  return (
    <Dialog title={`When ${dial.label} works`} isOpen onClose={onClose}>
      <Picker
        label="Condition"
        choices={[{ id: '', text: 'just a dial' }, ...DIAL_ROLES.map((id) => ({ id, text: ROLE_TEXTS[id] }))]}
        value={dial.role ?? ''}
        onChange={(id) => change({ role: id === '' ? undefined : (id as Dial['role']) })}
      />
      <h3 style={{ margin: '12px 0 4px', fontSize: 15 }}>Modes</h3>
      <Bar style={{ marginTop: 0 }}>
        {MODES.filter((mode) => profile.modes.includes(mode)).map((mode) => {
          const all = profile.modes;
          const on = dial.modes ?? all;
          return (
            <Check
              key={mode}
              isSelected={on.includes(mode)}
              onChange={(isOn) => {
                const modes = MODES.filter((each) => (each === mode ? isOn : on.includes(each)));
                change({ modes: all.every((each) => modes.includes(each)) || modes.length === 0 ? undefined : modes });
              }}
            >
              {MODE_LABELS[mode]}
            </Check>
          );
        })}
      </Bar>
      {switches.map(({ id, label, scale }) => (
        <div key={id}>
          <h3 style={{ margin: '12px 0 4px', fontSize: 15 }}>Only while {label} is</h3>
          <Bar style={{ marginTop: 0 }}>
            {scale.kind === 'options' &&
              scale.options.map((option) => (
                <Check key={option} isSelected={isAt(id, option)} onChange={(isOn) => toggle(id, option, isOn)}>
                  {option}
                </Check>
              ))}
          </Bar>
        </div>
      ))}
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
