/** Serves the built app with the right headers. `--demo` opens it on the demonstration. */
import compression from 'compression';
import express from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { argv, env, exit, stderr, stdout } from 'node:process';

const dist = resolve(import.meta.dirname, '../../dist');
const demo = argv.includes('--demo');
const port = Number(env.PORT ?? 4173);

function stop(sentence: string): never {
  stderr.write(sentence + '\n');
  exit(1);
}

if (!Number.isInteger(port) || port < 1 || port > 65535)
  stop(`PORT is a number from 1 to 65535, not ${env.PORT ?? ''}.`);
if (!existsSync(resolve(dist, 'index.html'))) stop('The app is not built yet: run npm run build first.');

const app = express();
app.disable('x-powered-by');
app.use(
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    referrerPolicy: { policy: 'no-referrer' },
    strictTransportSecurity: false,
  }),
);
app.use((_request, response, next) => {
  response.setHeader('Permissions-Policy', 'microphone=(self), camera=(), geolocation=(), payment=()');
  next();
});
app.use(compression());
if (demo) app.get('/', (_request, response) => response.redirect(302, '/demo/bench'));
app.use('/assets', express.static(resolve(dist, 'assets'), { immutable: true, maxAge: '365d' }));
app.use(express.static(dist, { maxAge: 0 }));
app.get('/{*path}', (request, response) => {
  if (/\.[a-z0-9]+$/i.test(request.path)) response.status(404).type('text').send('Not found.');
  else response.sendFile(resolve(dist, 'index.html'));
});

const server = app.listen(port, (error?: Error) => {
  if (error) stop(`Port ${port} is taken: stop what uses it, or choose another with PORT=4200.`);
  stdout.write(`Slow Anchor is at http://localhost:${port}${demo ? ' with the demonstration bench' : ''}\n`);
});
server.on('error', (error: NodeJS.ErrnoException) => {
  stop(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken: stop what uses it, or choose another with PORT=4200.`
      : error.message,
  );
});
