import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The row of the raw table that each row of a prepared version was: four bytes a row, little-endian. */
@Entity({ schema: 'vault', name: 'version_origin' })
export class VersionOrigin {
  @PrimaryColumn('uuid', { name: 'version_id' }) versionId: string;
  @Column('bytea') origin: Buffer;
}

/** Origins as they are kept. */
export const packOrigin = (rows: Int32Array): Buffer => {
  const bytes = Buffer.alloc(4 * rows.length);
  rows.forEach((row, i) => bytes.writeInt32LE(row, 4 * i));
  return bytes;
};

export const unpackOrigin = (bytes: Buffer): Int32Array =>
  Int32Array.from({ length: bytes.length / 4 }, (_, i) => bytes.readInt32LE(4 * i));
