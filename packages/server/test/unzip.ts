import yauzl from 'yauzl';

/** The files of a ZIP by their names, read by a package that is not the one that wrote it. */
export function unzip(bytes: Buffer): Promise<Map<string, Buffer>> {
  return new Promise((resolve, reject) => {
    yauzl.fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error);
      const files = new Map<string, Buffer>();
      zip.on('error', reject);
      zip.on('end', () => resolve(files));
      zip.on('entry', (entry: yauzl.Entry) => {
        zip.openReadStream(entry, (failed, stream) => {
          if (failed) return reject(failed);
          const parts: Buffer[] = [];
          stream.on('data', (part: Buffer) => parts.push(part));
          stream.on('error', reject);
          stream.on('end', () => {
            files.set(entry.fileName, Buffer.concat(parts));
            zip.readEntry();
          });
        });
      });
      zip.readEntry();
    });
  });
}
