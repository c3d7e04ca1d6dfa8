import { onScopeDispose, ref, type Ref } from 'vue';
import { isNavigationFailure, NavigationFailureType, useRoute, useRouter } from 'vue-router';

/** The address that was asked for last: the one on the screen, or the one whose page is still on the way. */
export function usePlaceAskedFor(): Readonly<Ref<string>> {
  const router = useRouter();
  const place = ref(useRoute().fullPath);
  const ends = [
    router.beforeEach((to) => {
      place.value = to.fullPath;
    }),
    router.afterEach((to, from, failure) => {
      // What gave way to a later one leaves the later one's address.
      if (!failure) place.value = to.fullPath;
      else if (!isNavigationFailure(failure, NavigationFailureType.cancelled)) place.value = from.fullPath;
    }),
    router.onError((_error, _to, from) => {
      place.value = from.fullPath;
    }),
  ];
  onScopeDispose(() => {
    for (const end of ends) end();
  });
  return place;
}
