import product from '../../../../package.json' with { type: 'json' }

/** The version that this page was built from. */
export const { version } = product
