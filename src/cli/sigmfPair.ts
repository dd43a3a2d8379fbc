/** A SigMF recording on disk: two files of one name. */
import { openSigmf, parseSigmfMeta, type SampleSource, sha512Warnings } from '@/core/files/index.ts';
import { openFile } from './fileSource.ts';
import { about, readText } from './inputs.ts';

/** @param path either of the two files */
export async function openSigmfPair(path: string): Promise<SampleSource> {
  const bare = path.replace(/\.sigmf-(?:meta|data)$/, '');
  const [metaPath, dataPath] = [`${bare}.sigmf-meta`, `${bare}.sigmf-data`];
  const meta = await about(metaPath, async () => parseSigmfMeta(await readText(metaPath)));
  return about(dataPath, async () => {
    const data = await openFile(dataPath);
    return openSigmf(meta, data, await sha512Warnings(meta, data));
  });
}
