/** Files of evidence: reading, writing, and telling what they are. What the other folders may use. */

export { type AdifRecord, adifHeader, adifRecord, adifTime, parseAdif, timeOfAdif } from './adif.ts';
export { type ByteSource, bytesInMemory, bytesOfBlob } from './byteSource.ts';
export { csvLine } from './csv.ts';
export { curveCsv, parseCurve } from './curveFile.ts';
export {
  type BlockOptions,
  headOf,
  type InterleavedBlock,
  mixDown,
  monoPieces,
  openWav,
  readPart,
  type SampleSource,
  samplesOfPiece,
} from './samples.ts';
export { parseScopeTrace, type ScopeTrace } from './scopeTrace.ts';
export { openSigmf, parseSigmfMeta, sigmfFrequencyHz, sigmfLayout, sigmfMetaFor } from './sigmf.ts';
export { sha512, sha512Warnings } from './sigmfChecksum.ts';
export { readWavInfo, startsLikeWav } from './wav.ts';
export { wavCoder } from './wavCoder.ts';
export { wavData, wavHeader, writeWav } from './wavWriter.ts';
