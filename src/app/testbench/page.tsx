/** The test bench: signals to play into the radio, power, pads, harmonics, FM width. */
import type { Metadata } from 'next';
import { TestBench } from '@/features/testbench/TestBench.tsx';

export const metadata: Metadata = { title: 'Test bench' };

export default function Page() {
  return <TestBench />;
}
