import { createServer, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import S3rver from 's3rver';

/** What a line to a store does to a request. */
export type Fault = 'pass' | 'slow' | '500' | '503' | 'cut' | 'flip';

/**
 * A store that speaks S3 over HTTP (s3rver, which knows parts, ranges, signed addresses and keys, but does not compute signatures), and before
 * it a line that does what lines do.
 */
export class Line {
  private server!: Server;
  private store!: InstanceType<typeof S3rver>;
  private storePort = 0;
  /** For each request in turn; what comes after passes. */
  faults: Fault[] = [];
  readonly asked: string[] = [];

  async open(folder: string): Promise<string> {
    this.store = new S3rver({
      port: 0,
      address: '127.0.0.1',
      silent: true,
      directory: folder,
      configureBuckets: [{ name: 'reels', configs: [] }],
    });
    this.storePort = (await this.store.run()).port;
    this.server = createServer((request, response) => this.carry(request, response)).listen(0, '127.0.0.1');
    await new Promise((resolve) => this.server.once('listening', resolve));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }
  async close(): Promise<void> {
    this.server.close();
    this.server.closeAllConnections();
    await this.store.close();
  }

  private carry(request: IncomingMessage, response: ServerResponse): void {
    const fault = this.faults.shift() ?? 'pass';
    this.asked.push(`${request.method} ${request.url}`);
    if (fault === '500' || fault === '503') {
      request.resume();
      request.once('end', () => response.writeHead(Number(fault)).end());
      return;
    }
    const { method, url, headers } = request;
    const onward = ask({ port: this.storePort, host: '127.0.0.1', method, path: url, headers }, (answer) => {
      response.writeHead(answer.statusCode!, answer.headers);
      if (fault === 'cut') {
        answer.once('data', (chunk: Buffer) => {
          response.write(chunk.subarray(0, Math.floor(chunk.length / 2)));
          setTimeout(() => response.destroy(), 20);
        });
        if (method !== 'GET') response.destroy();
        return;
      }
      answer.on('data', (chunk: Buffer) => {
        if (fault === 'flip') chunk[0] = chunk[0]! ^ 1;
        response.write(chunk);
      });
      answer.once('end', () => (fault === 'slow' ? setTimeout(() => response.end(), 700) : response.end()));
    });
    onward.on('error', () => response.destroy());
    let isFirst = true;
    request.on('data', (chunk: Buffer) => {
      if (fault === 'flip' && isFirst && method === 'PUT') chunk[0] = chunk[0]! ^ 1;
      isFirst = false;
      onward.write(chunk);
    });
    request.once('end', () => onward.end());
  }
}

/** What is set where files lie in that store. @param folder for everything else */
export const bucketSettings = (endpoint: string, folder: string): Record<string, string> => ({
  AWS_ACCESS_KEY_ID: 'S3RVER',
  AWS_SECRET_ACCESS_KEY: 'S3RVER',
  BRIGHT_REEL_DATA: folder,
  BRIGHT_REEL_STORAGE: 's3://reels/pond',
  BRIGHT_REEL_S3_ENDPOINT: endpoint,
});
