import product from '../../package.json' with { type: 'json' }

/** The version of the product, as its tag names it. */
export const { version } = product
