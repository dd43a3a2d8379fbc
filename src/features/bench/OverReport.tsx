'use client';
/** What was measured of an over, and how to have it measured anew. */
import { useMeasureAgain } from '@/client/useMeasureAgain.ts';
import type { OverView } from '@/server/overs/overs.ts';
import { Report } from '@/ui/report/Report.tsx';

export const OverReport = ({ over }: { over: OverView }) => <Report over={over} again={useMeasureAgain(over)} />;
