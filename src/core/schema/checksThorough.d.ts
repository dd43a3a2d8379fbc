import type { CompiledCheck } from './problems.ts';
export const rig: CompiledCheck;
export const card: CompiledCheck;
export const microphone: CompiledCheck;
export const sigmf: CompiledCheck;
export const station: CompiledCheck;
export const history: CompiledCheck;
