/** Runs the simulated outlet (/outlet) and the stand-in media host (/media) on loopback. Arguments: port, folder for posts, folder with media. */
import { createServer } from 'node:http';
import { MediaHost } from './mediaHost';
import { SimulatedOutlet } from './outlet';

const [port = '0', folder = 'data/local/outlet', media = 'demo/media'] = process.argv.slice(2);
let address = '';
const outlet = await SimulatedOutlet.open(folder, () => `${address}/outlet`);
const host = new MediaHost(media);
const server = createServer((request, response) => {
  const { pathname } = new URL(request.url ?? '/', 'http://localhost');
  const [, room, path] = /^\/(outlet|media)(\/.*|)$/.exec(pathname) ?? [];
  const handled =
    room === 'outlet'
      ? outlet.handle(request, response, path || '/')
      : room === 'media'
        ? host.handle(request, response, path || '/')
        : null;
  if (!handled) return void response.writeHead(404).end('/outlet or /media');
  handled.catch((error: Error) => {
    console.error(error.message);
    if (!response.headersSent)
      response.writeHead(500).end(JSON.stringify({ problem: 'The outlet stumbled. Try again.' }));
    else response.destroy();
  });
});
server.listen(Number(port), '127.0.0.1', () => {
  const listening = server.address();
  address = `http://127.0.0.1:${typeof listening === 'object' && listening ? listening.port : port}`;
  console.log(address);
});
