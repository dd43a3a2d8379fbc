import { describe, expect, it } from 'vitest';
import { noise, sine } from '../../../tests/support/signals.ts';
import { LIVE_HZ, LiveMeter } from './live.ts';

const RATE = 48000;
const blocks = (samples: Float64Array, size = 2048) =>
  Array.from({ length: Math.floor(samples.length / size) }, (_, n) => Float32Array.from(samples.subarray(n * size, (n + 1) * size)));

describe('the live meter', () => {
  it('tells level, peak and tone of a sine, and holds what is gone', () => {
    const meter = new LiveMeter(RATE);
    let reading = meter.push(new Float32Array(2048));
    expect([reading.levelDb, reading.heldPeakDb, reading.thirdOctaves]).toEqual([null, null, null]);
    for (const block of blocks(sine(RATE, 1000, 1, 0.5))) reading = meter.push(block);
    expect(reading.levelDb).toBeCloseTo(-9.03, 1);
    expect(reading.heldPeakDb).toBeCloseTo(-6.02, 1);
    expect(reading.isClipping).toBe(false);
    const strongest = (levels: readonly (number | null)[]) => LIVE_HZ[levels.indexOf(Math.max(...levels.map((level) => level ?? -999)))];
    expect(Math.abs(strongest(reading.now) - 1000)).toBeLessThan(30);
    expect(reading.thirdOctaves?.[10]).toBe(0);
    for (const block of blocks(sine(RATE, 300, 1, 0.01))) reading = meter.push(block);
    expect(Math.abs(strongest(reading.now) - 300)).toBeLessThan(10);
    expect(Math.abs(strongest(reading.held) - 1000)).toBeLessThan(30);
    // The quiet tone is a pause beside the loud one: the tone of the talk stays.
    expect(reading.thirdOctaves?.[10]).toBe(0);
    meter.release();
    reading = meter.push(Float32Array.from(sine(RATE, 300, 0.05, 0.01)));
    expect(reading.heldPeakDb).toBeCloseTo(-40, 0);
  });

  it('shows white noise rising by 1 dB a third octave (arithmetic), and flags full scale', () => {
    const meter = new LiveMeter(RATE);
    let reading = meter.push(new Float32Array(1));
    for (const block of blocks(noise(RATE, 8, 0.1), 4800)) reading = meter.push(block);
    const tone = reading.thirdOctaves ?? [];
    expect((tone[16] ?? 0) - (tone[6] ?? 0)).toBeGreaterThan(8.5);
    expect((tone[16] ?? 0) - (tone[6] ?? 0)).toBeLessThan(11.5);
    expect(meter.push(new Float32Array(9000).fill(1)).isClipping).toBe(true);
  });
});
