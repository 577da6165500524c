/** Removes what programs that ended early have left in a bucket: objects, and uploads that were never completed. */
import {
  AbortMultipartUploadCommand,
  DeleteObjectCommand,
  ListMultipartUploadsCommand,
  ListObjectsV2Command,
  type S3Client,
} from '@aws-sdk/client-s3';
import { isUploadKey } from '../forms/index.ts';

/** Pages of a list in one sweep; the next sweep goes on. A list that never ends must not keep a program busy. */
const mostPages = 1000;

/** @param age milliseconds; what is younger stays */
export async function sweep(
  client: S3Client,
  { bucket: Bucket, prefix: Prefix }: { bucket: string; prefix: string },
  age: number,
): Promise<number> {
  const oldest = Date.now() - age;
  const isOld = (when: Date | undefined) => when !== undefined && when.getTime() <= oldest;
  // A bucket may hold other things, and a server that is not quite S3 may list them.
  const isOwn = (key: string | undefined) => key?.startsWith(Prefix) === true && isUploadKey(key.slice(Prefix.length));
  let removed = 0;
  let next: string | undefined;
  for (let page = 0; page < mostPages; page++) {
    const { Contents = [], NextContinuationToken } = await client.send(
      new ListObjectsV2Command({ Bucket, Prefix, ContinuationToken: next }),
    );
    for (const { Key, LastModified } of Contents) {
      if (!isOwn(Key) || !isOld(LastModified)) continue;
      await client.send(new DeleteObjectCommand({ Bucket, Key }));
      removed++;
    }
    if (NextContinuationToken === undefined || NextContinuationToken === next) break;
    next = NextContinuationToken;
  }
  const { Uploads = [] } = await client.send(new ListMultipartUploadsCommand({ Bucket, Prefix }));
  for (const { Key, UploadId, Initiated } of Uploads)
    if (isOwn(Key) && isOld(Initiated)) await client.send(new AbortMultipartUploadCommand({ Bucket, Key, UploadId }));
  return removed;
}
