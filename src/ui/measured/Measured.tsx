'use client';
/** What was measured of an over, whatever its kind: numbers, findings, drawings. */
import type { MeasureAgain } from '@/client/useMeasureAgain.ts';
import { CORE_VERSION, type PowerDetail, type RadioDetail } from '@/core/measure/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { Notice } from '../parts/Notice.tsx';
import { Findings } from './Findings.tsx';
import { NumberGrid } from './NumberGrid.tsx';
import { reportNumbers } from './numbers.ts';
import { OlderVersion } from './OlderVersion.tsx';
import { PowerReport } from './PowerReport.tsx';
import { RadioReport } from './RadioReport.tsx';
import { ResponseReport } from './ResponseReport.tsx';
import { VoiceReport } from './VoiceReport.tsx';

/** @param again measures the over anew */
export function Measured({ over, again }: { over: OverView; again: MeasureAgain }) {
  const { evidence } = over;
  if (!evidence)
    return <p>{over.measurement?.error ?? (over.measurement ? 'This over is being measured.' : 'This over has no recording.')}</p>;
  const { result, detail } = evidence;
  return (
    <>
      {over.measurement?.status === 'failed' && <Notice tone="fault">{over.measurement.error} The numbers below are from before.</Notice>}
      {over.measurement && over.measurement.status === 'done' && over.measurement.coreVersion !== CORE_VERSION && (
        <OlderVersion version={over.measurement.coreVersion} again={again} />
      )}
      {over.capture?.settings.remark && <Notice>{over.capture.settings.remark}</Notice>}
      <NumberGrid numbers={reportNumbers(result)} />
      {result.notes.samples && <Notice>{result.notes.samples}</Notice>}
      {result.kind === 'voice' && result.activeSpeechLevelDb === null ? (
        <Notice tone="fault">
          There is nothing to hear in this recording: digital silence. Check the recorder's input and record again.
        </Notice>
      ) : (
        <Findings findings={result.findings} />
      )}
      {result.kind === 'voice' && <VoiceReport over={over} />}
      {(result.kind === 'ssb' || result.kind === 'am' || result.kind === 'fm' || result.kind === 'two-tone') && (
        <RadioReport key={over.measurement?.id} over={over} result={result} detail={detail as RadioDetail} again={again} />
      )}
      {again.message && <Notice tone="fault">{again.message}</Notice>}
      {result.kind === 'response' && <ResponseReport result={result} settings={over.capture?.settings ?? {}} />}
      {result.kind === 'power' && <PowerReport result={result} detail={detail as PowerDetail} />}
    </>
  );
}
