import { ElButton, ElMessage } from 'element-plus';
import { h } from 'vue';

/** Long enough to read what happened and to reach for it. */
const OFFERED_MS = 10_000;

/** Says what was changed, and takes it back when that is asked for. The last change is the one that is offered. */
export function offerUndo(words: string, undo: () => unknown): void {
  ElMessage.closeAll();
  const said = ElMessage({
    duration: OFFERED_MS,
    placement: 'bottom',
    customClass: 'undo',
    message: h('span', { class: 'row', 'data-test': 'undo' }, [
      h('span', words),
      h(
        ElButton,
        {
          size: 'large',
          onClick: () => {
            said.close();
            void undo();
          },
        },
        () => 'Undo',
      ),
    ]),
  });
}
