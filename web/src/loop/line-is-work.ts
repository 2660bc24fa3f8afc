import type { InjectionKey, Ref } from 'vue'

/** Whether the open signal path above a bench is a part of that bench's work. */
export const LINE_IS_WORK: InjectionKey<Readonly<Ref<boolean>>> = Symbol('line is work')
