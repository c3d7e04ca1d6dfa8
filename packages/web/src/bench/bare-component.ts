import { createApp, defineComponent, h, ref } from 'vue';

/** The yardstick of the tap benchmark: one component that changes one text. Only in the benchmark's build. */
const Bare = defineComponent({
  setup() {
    const count = ref(0);
    return () => h('button', { type: 'button', onClick: () => (count.value += 1) }, `Text ${count.value}`);
  },
});

export function mountBare(): void {
  const host = document.createElement('div');
  host.id = 'bare';
  host.style.cssText = 'position:fixed;left:0;top:0;z-index:99';
  document.body.append(host);
  createApp(Bare).mount(host);
}
