// Runs what docs/command-line.md says of spreading one file over processes and machines, as it stands there: by xargs, by GNU parallel,
// and as a job array of Slurm on this machine alone. Each must find what one process finds. It needs Debian's packages parallel and
// slurm-wlm, and to be root.
//
//   node scripts/manyMachines.mjs

import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { availableParallelism, hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'upper-gate-machines-'));
const write = (name, text) => (writeFileSync(join(folder, name), text), join(folder, name));
const SLURM = join(folder, 'slurm');
const env = { ...process.env, PATH: `${folder}:${process.env.PATH}`, SLURM_CONF: join(SLURM, 'slurm.conf') };
const sh = (line) => execFileSync('bash', ['-c', line], { cwd: folder, env, stdio: ['ignore', 'pipe', 'pipe'], encoding: 'utf8' });

/** A cluster of this machine alone. @returns what ends it */
async function startSlurm() {
  for (const each of ['state', 'spool']) mkdirSync(join(SLURM, each), { recursive: true });
  const at = (name) => join(SLURM, name);
  writeFileSync(at('munge.key'), randomBytes(1024), { mode: 0o400 });
  const host = hostname().split('.')[0];
  writeFileSync(
    at('slurm.conf'),
    `ClusterName=one
SlurmctldHost=${host}(127.0.0.1)
SlurmUser=root
AuthType=auth/munge
AuthInfo=socket=${at('munge.socket')}
ProctrackType=proctrack/pgid
TaskPlugin=task/none
ReturnToService=2
SlurmctldPort=16817
SlurmdPort=16818
SlurmctldPidFile=${at('slurmctld.pid')}
SlurmdPidFile=${at('slurmd.pid')}
StateSaveLocation=${at('state')}
SlurmdSpoolDir=${at('spool')}
SlurmctldLogFile=${at('slurmctld.log')}
SlurmdLogFile=${at('slurmd.log')}
SelectType=select/cons_tres
SelectTypeParameters=CR_Core
NodeName=${host} NodeAddr=127.0.0.1 CPUs=${availableParallelism()} State=UNKNOWN
PartitionName=all Nodes=ALL Default=YES State=UP
`,
  );
  const files = ['key-file=munge.key', 'socket=munge.socket', 'pid-file=munged.pid', 'log-file=munged.log', 'seed-file=munged.seed'];
  sh(`munged --force ${files.map((each) => `--${each.replace('=', `=${SLURM}/`)}`).join(' ')} && slurmctld -c && sleep 1 && slurmd -c`);
  for (let tries = 0; !sh('sinfo --noheader').includes('idle'); tries += 1) {
    if (tries > 30) throw new Error(`Slurm does not come up: see ${SLURM}.`);
    await wait(500);
  }
  return () => {
    for (const daemon of ['slurmd', 'slurmctld', 'munged']) process.kill(Number(readFileSync(at(`${daemon}.pid`), 'utf8')));
  };
}

// The command, a schema, and records of which some are wrong.
chmodSync(join(root, 'packages/cli/bin/upper-gate.js'), 0o755);
symlinkSync(join(root, 'packages/cli/bin/upper-gate.js'), join(folder, 'upper-gate'));
write(
  'passage.ts',
  "import { group, number, range, required, text } from 'upper-gate'; export default group({ vessel: text('Vessel', required()), beam: number('Beam (m)', range({ max: 5.2 })) });",
);
write(
  'bookings.ndjson',
  Array.from({ length: 5000 }, (_, i) => `${JSON.stringify({ vessel: i % 10 ? `Otter ${i}` : '', beam: (i % 60) / 10 })}\n`).join(''),
);

// The lines of the guide, in their order.
const guide = readFileSync(join(root, 'docs/command-line.md'), 'utf8');
const [, section = ''] = /## Check large files\n([^]*?)\n## /.exec(guide) ?? [];
const blocks = [...section.matchAll(/^```sh(?: machines)?(?: file=(\S+))?\n([^]*?)^```/gm)].map(([, file, text]) => ({ file, text }));

sh('upper-gate check passage.ts bookings.ndjson --format ndjson > whole.ndjson || [ $? -eq 1 ]');
const expected = readFileSync(join(folder, 'whole.ndjson'), 'utf8');
const stopSlurm = await startSlurm();
let failed = 0;
try {
  for (const { file, text } of blocks) {
    if (file) {
      write(file, text);
      continue;
    }
    sh('rm -f findings*');
    sh(text);
    const isSame = readFileSync(join(folder, 'findings.ndjson'), 'utf8') === expected;
    failed += isSame ? 0 : 1;
    console.log(`${isSame ? 'same' : 'NOT THE SAME'}: ${text.split('\n')[0]}`);
  }
} finally {
  stopSlurm();
}
if (blocks.length < 4 || failed > 0)
  throw new Error(`${failed} of ${blocks.length} blocks find something else than one process does. See ${folder}.`);
rmSync(folder, { recursive: true });
console.log(`${expected.split('\n').length - 1} findings each.`);
