/** The model of the whole path: transmitter, path, receiver. What the other folders may use. */

export { type Audition, audition, busiestPart } from './hear/audition.ts';
export { dryVoice, type HeardWith } from './hear/dryVoice.ts';
export { hearCard, type ListenAt, type Way } from './hear/hearCard.ts';
export { PATHS, RECEIVERS, REPEATERS } from './hear/ways.ts';
export { CLEAR_PATH } from './path/path.ts';
export { GOOD_RECEIVER, Receiver, type ReceiverShape } from './receiver/receiver.ts';
export { calibrateDrive } from './station/calibrateDrive.ts';
export {
  type HiddenRadio,
  hiddenRadio,
  hiddenTruths,
  PRACTICE_RADIOS,
  PRACTICE_RECEIVERS,
  practiceReceiverKind,
} from './station/hiddenRadio.ts';
export { type MeterReadings, Simulation, voiceGain } from './station/simulate.ts';
export { parseStation, type SimulatedStation } from './station/stationFile.ts';
export { atModelRate, type StationSetting, type Voice } from './station/voiceAndStation.ts';
export type { AlcReading } from './transmitter/alc.ts';
export { compressorGainDb, USUAL_COMPRESSOR } from './transmitter/compressor.ts';
export { microphoneResponseDb, proximityDb } from './transmitter/microphone.ts';
export { type MicrophoneSetting, QUIET_ROOM } from './transmitter/microphoneStage.ts';
export { modelRateHz, parametersOf, type TransmitterParameters, USUAL_RADIO } from './transmitter/parameters.ts';
export { type TransmitterOptions, transmit, voiceGainDb } from './transmitter/transmitter.ts';
