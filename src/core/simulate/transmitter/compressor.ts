/**
 * Audio compressor: a peak detector with attack and release, a static curve with one corner, and make-up gain that
 * leaves a tone at the ceiling where it was. Feed-forward form as in D. Giannoulis, M. Massberg and J. Reiss,
 * "Digital dynamic range compressor design", JAES 2012 (from memory).
 */
import { type AudioStage, instantAudio } from '../../dsp/index.ts';
import { amplitudeToDb, type Decibels, dbToAmplitude, dbToPower, type Hertz, powerToDb, type Seconds } from '../../units/index.ts';
import type { Compressing } from './clipper.ts';
import { type GainTable, gainTable, lookUp } from './gainTable.ts';

/** Compression, ratio, times and ceiling. */
export interface CompressorShape {
  /** By how much a peak at the ceiling is turned down before make-up; 0: no compressor. */
  readonly compressionDb: Decibels;
  /** Level of the loudest peaks, re full drive (a tone's peak). */
  readonly ceilingDb: Decibels;
  /** Decibels in over decibels out above the threshold. */
  readonly ratio: number;
  readonly attackS: Seconds;
  readonly releaseS: Seconds;
}

/** An audio compressor as radios have it; common practice. */
export const USUAL_COMPRESSOR = { ratio: 4, attackS: 0.002, releaseS: 0.12 } as const;

/** Where the curve bends, re full drive: from there to the ceiling `compressionDb` is taken off. */
export const thresholdDb = ({ compressionDb, ceilingDb, ratio }: CompressorShape): Decibels =>
  ceilingDb - (compressionDb * ratio) / (ratio - 1);

/** Gain of the static curve with make-up at a peak level. */
export function compressorGainDb(shape: CompressorShape, levelDb: Decibels): Decibels {
  const over = Math.max(0, levelDb - thresholdDb(shape));
  return shape.compressionDb - over * (1 - 1 / shape.ratio);
}

/** The static curve over the detector's power. Above the table's top the curve is evaluated exactly. */
function curve(shape: CompressorShape): GainTable {
  const gain = (power: number) => dbToAmplitude(compressorGainDb(shape, powerToDb(Math.max(power, 1e-30))));
  return gainTable(gain, dbToPower(shape.ceilingDb));
}

/** Feed-forward compression by the detector's power. */
export function compressorStage(shape: CompressorShape, rateHz: Hertz): AudioStage & Compressing {
  if (shape.compressionDb <= 0) return { ...instantAudio((block) => block), highestDb: () => 0 };
  const table = curve(shape);
  const attack = 1 - Math.exp(-1 / (rateHz * shape.attackS));
  const release = 1 - Math.exp(-1 / (rateHz * shape.releaseS));
  let peak = 0;
  let highest = 0;
  const stage = instantAudio((block) => {
    for (let n = 0; n < block.length; n++) {
      const x = block[n];
      const size = x < 0 ? -x : x;
      peak += (size - peak) * (size > peak ? attack : release);
      if (peak > highest) highest = peak;
      block[n] = x * lookUp(table, peak * peak);
    }
    return block;
  });
  return { ...stage, highestDb: () => shape.compressionDb - compressorGainDb(shape, amplitudeToDb(Math.max(highest, 1e-15))) };
}
