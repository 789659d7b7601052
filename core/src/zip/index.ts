export { base64 } from './base64';
export { crc32 } from './crc32';
export { readZip, type ZipEntry } from './readZip';
