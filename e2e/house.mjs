// One process for many servers, each with a data folder and an address of its own: they share what is compiled and warm. A POST of a folder opens one
// and answers its address, a DELETE of that address closes it.
import { createServer } from 'node:http';
import { join } from 'node:path';
import { serve, startThreads } from '../dist/server/index.js';
import { ROOT } from './seed.mjs';

const threads = startThreads();
const open = new Map();

async function answer(request) {
  let said = '';
  for await (const chunk of request) said += chunk;
  if (request.method === 'POST') {
    const serving = await serve({ folder: said, port: 0, pages: join(ROOT, 'dist/web'), version: 'test', threads });
    const address = serving.address.replace(/\/$/, '');
    open.set(address, serving);
    return address;
  }
  await open.get(said).close();
  open.delete(said);
  return '';
}

const door = createServer((request, response) => {
  answer(request).then(
    (text) => response.end(text),
    (error) => response.writeHead(500).end(String(error)),
  );
});
// As with the command that serves: what one request has met must not end everybody's tests.
process.on('unhandledRejection', (reason) => console.error('unhandled rejection:', reason));
process.on('disconnect', () => process.exit(0));
door.listen(0, '127.0.0.1', () => process.send(`http://127.0.0.1:${door.address().port}/`));
