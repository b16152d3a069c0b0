/** Writes the nets as files for onnxruntime, so that the packages they come from need not be installed. Usage: nets.ts FOLDER */
import { copyFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildNet, netNames, voiceFile } from '../../media/nets/models';

const folder = process.argv[2]!;
mkdirSync(folder, { recursive: true });
for (const name of netNames) writeFileSync(join(folder, `${name}.onnx`), buildNet(name));
copyFileSync(voiceFile(), join(folder, 'voice.onnx'));
