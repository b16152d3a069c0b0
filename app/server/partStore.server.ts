import type { Readable } from 'node:stream';
import { DataStore, ERRORS, Upload } from '@tus/server';
import { addToUpload, beginUpload, findUpload, forgetUpload } from '#usecases/uploads';

/** Keeps uploads in parts in the bucket, and how far they are in the database: no web server has anything of its own. */
export class PartStore extends DataStore {
  constructor() {
    super();
    this.extensions = ['creation', 'creation-with-upload', 'termination'];
  }

  override async create(upload: Upload): Promise<Upload> {
    await beginUpload({ id: upload.id, length: upload.size ?? 0, metadata: upload.metadata ?? {} });
    return upload;
  }

  override write(bytes: Readable, id: string, offset: number): Promise<number> {
    return addToUpload(id, offset, bytes);
  }

  override async getUpload(id: string): Promise<Upload> {
    const known = await findUpload(id);
    if (!known) throw ERRORS.FILE_NOT_FOUND;
    return new Upload({ id, size: known.length, offset: known.received, metadata: known.metadata });
  }

  override remove(id: string): Promise<void> {
    return forgetUpload(id);
  }
}
