/** Removes what programs that ended early have left in a bucket: objects, and uploads that were never completed. */
import {
  AbortMultipartUploadCommand,
  DeleteObjectCommand,
  ListMultipartUploadsCommand,
  ListObjectsV2Command,
  type S3Client,
} from '@aws-sdk/client-s3';

/** @param age milliseconds; what is younger stays */
export async function sweep(
  client: S3Client,
  { bucket: Bucket, prefix: Prefix }: { bucket: string; prefix: string },
  age: number,
): Promise<number> {
  const oldest = Date.now() - age;
  const isOld = (when: Date | undefined) => when !== undefined && when.getTime() <= oldest;
  let removed = 0;
  let next: string | undefined;
  do {
    const { Contents = [], NextContinuationToken } = await client.send(
      new ListObjectsV2Command({ Bucket, Prefix, ContinuationToken: next }),
    );
    for (const { Key, LastModified } of Contents) {
      if (!isOld(LastModified)) continue;
      await client.send(new DeleteObjectCommand({ Bucket, Key }));
      removed++;
    }
    next = NextContinuationToken;
  } while (next !== undefined);
  const { Uploads = [] } = await client.send(new ListMultipartUploadsCommand({ Bucket, Prefix }));
  for (const { Key, UploadId, Initiated } of Uploads)
    if (isOld(Initiated)) await client.send(new AbortMultipartUploadCommand({ Bucket, Key, UploadId }));
  return removed;
}
