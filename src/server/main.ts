/** Serves the built app with the right headers. `--demo` opens it on the demonstration. */
import compression from 'compression';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import { resolve } from 'node:path';
import { argv, env, exit, stderr, stdout } from 'node:process';

const dist = resolve(import.meta.dirname, '../../dist');
const demo = argv.includes('--demo');
const port = Number(env.PORT ?? 4173);
/** This machine alone, unless somebody says otherwise. */
const host = env.HOST ?? '127.0.0.1';

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
        // The chart begins with one empty style element, known by its hash; it fills it by rules, which are not inline.
        styleSrc: ["'self'", "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"],
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
// Every address of the app is one page; a file that is not there is none of them.
app.get('/{*path}', (request, response) => {
  if (/^\/(assets\/|.*\.(js|css|json|svg|png|woff2?|webmanifest|map|ico|txt)$)/.test(request.path)) missing(response);
  else response.sendFile(resolve(dist, 'index.html'));
});
app.use((_request: Request, response: Response) => missing(response));
app.use((error: { status?: number }, _request: Request, response: Response, next: NextFunction) => {
  if (response.headersSent) return next(error);
  // What a broken address or request brought about: said without a word of the insides.
  const status = typeof error.status === 'number' && error.status >= 400 && error.status < 500 ? error.status : 500;
  response
    .status(status)
    .type('text')
    .send(status === 500 ? 'This went wrong here.' : 'This is no address of Slow Anchor.');
});

/** Names of this machine under which it answers. */
function addresses(): string[] {
  if (host === '127.0.0.1') return ['localhost'];
  if (host !== '0.0.0.0' && host !== '::') return [host.includes(':') ? `[${host}]` : host];
  const others = Object.values(networkInterfaces()).flatMap((all) => all ?? []);
  return ['localhost', ...others.flatMap((a) => (a.family === 'IPv4' && !a.internal ? [a.address] : []))];
}

function missing(response: Response): void {
  response.status(404).type('text').send('Not found.');
}

const server = app.listen(port, host, (error?: Error) => {
  if (error) stop(`Port ${port} is taken: stop what uses it, or choose another with PORT=4200.`);
  const at = addresses().map((name) => `http://${name}:${port}`);
  stdout.write(`Slow Anchor is at ${at.join(', ')}${demo ? ' with the demonstration bench' : ''}\n`);
});
server.on('error', (error: NodeJS.ErrnoException) => {
  stop(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken: stop what uses it, or choose another with PORT=4200.`
      : error.message,
  );
});
