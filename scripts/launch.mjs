/** npm run demo and npm start: installs what is missing, builds, serves. */
import { installPackages, run } from './setup.mjs';

const demo = process.argv[2] === 'demo';
installPackages();
run('npm', ['run', '-s', 'build']);
run('npx', ['tsx', 'src/server/main.ts', ...(demo ? ['--demo'] : [])]);
