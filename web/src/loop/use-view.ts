import { computed, toValue, type MaybeRefOrGetter, type WritableComputedRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * The view of a bench, which stands in the address: it can be linked to, and the browser's back goes to the one before.
 * A view that the bench does not have is the first.
 */
export function useView<T extends string>(
  views: MaybeRefOrGetter<readonly { readonly id: T; readonly title: string }[]>,
  first: T,
): WritableComputedRef<T> {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => toValue(views).find((v) => v.id === route.query['view'])?.id ?? first,
    set: (id) => {
      const others = Object.fromEntries(Object.entries(route.query).filter(([key]) => key !== 'view'))
      void router.push({ query: id === first ? others : { ...others, view: id } })
    },
  })
}
