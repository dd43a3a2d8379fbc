'use client';
/** What was measured of an over, and how to have it measured anew. */
import { useMeasureAgain } from '@/client/useMeasureAgain.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { Measured } from '@/ui/measured/Measured.tsx';

export const OverReport = ({ over }: { over: OverView }) => <Measured over={over} again={useMeasureAgain(over)} />;
