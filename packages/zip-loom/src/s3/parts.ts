/** An object that is put part by part, for what is too large to be held. */
import {
  AbortMultipartUploadCommand,
  CompleteMultipartUploadCommand,
  CreateMultipartUploadCommand,
  type S3Client,
  UploadPartCommand,
} from '@aws-sdk/client-s3';

/**
 * @param read gives the next part; an empty one at the end
 * @throws what went wrong, with nothing left behind
 */
export async function putInParts(
  client: S3Client,
  { Bucket, Key, ContentType }: { Bucket: string; Key: string; ContentType: string },
  first: Uint8Array[],
  read: () => Promise<Uint8Array>,
): Promise<void> {
  const { UploadId } = await client.send(new CreateMultipartUploadCommand({ Bucket, Key, ContentType }));
  const upload = { Bucket, Key, UploadId };
  try {
    const parts: Array<{ PartNumber: number; ETag: string | undefined }> = [];
    for (let part = first.shift(); part && part.length > 0; part = first.shift() ?? (await read())) {
      const PartNumber = parts.length + 1;
      const { ETag } = await client.send(new UploadPartCommand({ ...upload, PartNumber, Body: part }));
      parts.push({ PartNumber, ETag });
    }
    await client.send(new CompleteMultipartUploadCommand({ ...upload, MultipartUpload: { Parts: parts } }));
  } catch (error) {
    // What was wrong is told, not what was wrong with tidying up; a sweep finds the rest.
    await client.send(new AbortMultipartUploadCommand(upload)).catch(() => {});
    throw error;
  }
}
