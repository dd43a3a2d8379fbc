import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { options, rigOf, steps, twoBankRig } from '../../../tests/support/rigs.ts';
import { factoryCard } from './card.ts';
import { effective } from './effective.ts';
import { withMeasuredEdges } from './measuredEdges.ts';
import { parseRig } from './validate.ts';

describe('a carrier offset', () => {
  const rig = parseRig(JSON.parse(readFileSync('demo/rigs/knot-5.json', 'utf8')));
  const at = (offset: number) => ({ mode: 'usb' as const, values: { ...factoryCard(rig, 'usb').values, 'carrier-offset': offset } });

  it('slides the passband, never below what a filter is', () => {
    const [low, high] = effective(rig, at(0)).passbandHz;
    expect(effective(rig, at(200)).passbandHz).toEqual([low + 200, high + 200]);
    expect(effective(rig, at(-200)).passbandHz).toEqual([low - 200, high - 200]);
    expect(effective(rig, at(-500)).passbandHz[0]).toBe(20);
  });

  it('is taken off what was measured with it before that goes into the profile', () => {
    const [low, high] = effective(rig, at(0)).passbandHz;
    const measured = withMeasuredEdges(rig, at(150), [low + 150, high + 150]);
    expect(measured && effective(measured, at(0)).passbandHz).toEqual([low, high]);
    expect(measured && effective(measured, at(150)).passbandHz).toEqual([low + 150, high + 150]);
  });
});

const filters = rigOf({
  dials: [options('filter', ['narrow', 'wide'], 'narrow'), steps('g', -6, 6, 1)],
  equalizer: { kind: 'graphic', octaves: 1, bands: [{ hz: 1000, level: 'g' }] },
  passbands: [
    {
      kind: 'choice',
      modes: ['usb'],
      dial: 'filter',
      edges: [
        ['narrow', 400, 2600],
        ['wide', 100, 2900],
      ],
    },
  ],
});

describe('measured edges in a profile', () => {
  it('take the place of a fixed passband, to 5 Hz', () => {
    const rig = twoBankRig();
    const changed = withMeasuredEdges(rig, factoryCard(rig), [311.7, 2688.2]);
    expect(changed && effective(changed, factoryCard(rig)).passbandHz).toEqual([310, 2690]);
    expect(changed && parseRig(changed)).toEqual(changed);
  });

  it('change the filter that the card uses and no other', () => {
    const wide = { ...factoryCard(filters), values: { ...factoryCard(filters).values, filter: 'wide' } };
    const changed = withMeasuredEdges(filters, wide, [130, 2850]);
    expect(changed && effective(changed, wide).passbandHz).toEqual([130, 2850]);
    expect(changed && effective(changed, factoryCard(filters)).passbandHz).toEqual([400, 2600]);
  });

  it('have no place where the dials are the edges', () => {
    const dials = rigOf({
      dials: [steps('low', 100, 500, 100, { rest: 300 }), steps('high', 2000, 3000, 100, { rest: 2700 }), steps('g', -6, 6, 1)],
      equalizer: { kind: 'graphic', octaves: 1, bands: [{ hz: 1000, level: 'g' }] },
      passbands: [{ kind: 'edges', modes: ['usb'], low: 'low', high: 'high' }],
    });
    expect(withMeasuredEdges(dials, factoryCard(dials), [310, 2690])).toBeNull();
  });
});
