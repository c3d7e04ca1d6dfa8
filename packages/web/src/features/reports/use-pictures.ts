import type { FaceRow } from '@clear-mark/contract';
import type { ReportPicture } from '@clear-mark/paper';
import { VERDICT_WORDS } from '@clear-mark/words';
import { type ShallowRef, shallowRef, watch } from 'vue';
import { fetchPicture } from '../../api/client.ts';

const wordsOf = ({ label, verdict }: FaceRow): string =>
  `${label}: ${verdict === null ? 'not graded' : VERDICT_WORDS[verdict].toLowerCase()}`;

function addressOf(picture: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(reader.error ?? new Error('not read'));
    reader.readAsDataURL(picture);
  });
}

/** The pictures of end faces themselves, so that paper has them too; null until they are there. One that is lost is left out. */
export function usePictures(
  classId: string,
  faces: () => readonly FaceRow[] | null | undefined,
): ShallowRef<readonly ReportPicture[] | null> {
  const pictures = shallowRef<readonly ReportPicture[] | null>(null);
  watch(
    faces,
    async (rows) => {
      pictures.value = null;
      if (!rows) return;
      const loaded = await Promise.allSettled(
        rows.map(async (face) => ({
          src: await addressOf(await fetchPicture(classId, face.id)),
          words: wordsOf(face),
        })),
      );
      if (faces() !== rows) return;
      pictures.value = loaded.flatMap((l) => (l.status === 'fulfilled' ? [l.value] : []));
    },
    { immediate: true },
  );
  return pictures;
}
