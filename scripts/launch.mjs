/** npm run demo and npm start: installs what is missing, builds, serves. */
import { installPackages, run } from './setup.mjs';

const demo = process.argv[2] === 'demo';
installPackages();
run('npm', ['run', '-s', 'build']);
run(process.execPath, ['dist-node/server/main.js', ...(demo ? ['--demo'] : [])]);
