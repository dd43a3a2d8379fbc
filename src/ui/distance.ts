'use client';
/** The unit that distances are shown and typed in. */
import { createContext, useContext } from 'react';
import { type MicrophoneUse, microphoneUseText } from '@/core/rig/index.ts';
import { type DistanceUnit, distanceText } from '@/core/units/index.ts';

export const DistanceContext = createContext<DistanceUnit>('cm');

export function useDistance() {
  const unit = useContext(DistanceContext);
  return {
    unit,
    text: (cm: number) => distanceText(cm, unit),
    /** A microphone as it is used, in words. */
    useText: (use: MicrophoneUse) => microphoneUseText(use, unit),
  };
}
