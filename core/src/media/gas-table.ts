/**
 * Coefficients of the detailed composition equation of state for natural gas and similar mixtures.
 * T in K, D in mol/L, p in kPa. Pairs not listed are 1.
 * @see ISO 20765-1, ISO 12213-2
 */
export const GAS_R = 8.31451

export interface GasComponent {
  readonly key: GasKey
  readonly M: number
  readonly E: number
  readonly K: number
  readonly G: number
  readonly Q: number
  readonly F: number
  readonly S: number
  readonly W: number
  readonly n0: readonly number[]
  readonly theta0: readonly number[]
}
export type GasKey =
  | 'methane'
  | 'nitrogen'
  | 'carbon_dioxide'
  | 'ethane'
  | 'propane'
  | 'isobutane'
  | 'n_butane'
  | 'isopentane'
  | 'n_pentane'
  | 'n_hexane'
  | 'n_heptane'
  | 'n_octane'
  | 'n_nonane'
  | 'n_decane'
  | 'hydrogen'
  | 'oxygen'
  | 'carbon_monoxide'
  | 'water'
  | 'hydrogen_sulfide'
  | 'helium'
  | 'argon'

/** M, E, K, G, Q, F, S, W, then five n0 and four theta0, as the standard's tables stand. */
const component = (key: GasKey, x: readonly number[]): GasComponent => {
  const [M = 0, E = 0, K = 0, G = 0, Q = 0, F = 0, S = 0, W = 0] = x
  return { key, M, E, K, G, Q, F, S, W, n0: x.slice(8, 13), theta0: x.slice(13) }
}
export const GAS_COMPONENTS: readonly GasComponent[] = [
  component(
    'methane',
    [
      16.043, 151.3183, 0.4619255, 0, 0, 0, 0, 0, 4.00088, 0.76315, 0.0046, 8.74432, -4.46921, 820.659,
      178.41, 1062.82, 1090.53,
    ],
  ),
  component(
    'nitrogen',
    [
      28.0135, 99.73778, 0.4479153, 0.027815, 0, 0, 0, 0, 3.50031, 0.13732, -0.1466, 0.90066, 0, 662.738,
      680.562, 1740.06, 0,
    ],
  ),
  component(
    'carbon_dioxide',
    [
      44.01, 241.9606, 0.4557489, 0.189065, 0.69, 0, 0, 0, 3.50002, 2.04452, -1.06044, 2.03366, 0.01393,
      919.306, 865.07, 483.553, 341.109,
    ],
  ),
  component(
    'ethane',
    [
      30.07, 244.1667, 0.5279209, 0.0793, 0, 0, 0, 0, 4.00263, 4.33939, 1.23722, 13.1974, -6.01989, 559.314,
      223.284, 1031.38, 1071.29,
    ],
  ),
  component(
    'propane',
    [
      44.097, 298.1183, 0.583749, 0.141239, 0, 0, 0, 0, 4.02939, 6.60569, 3.197, 19.1921, -8.37267, 479.856,
      200.893, 955.312, 1027.29,
    ],
  ),
  component(
    'isobutane',
    [
      58.123, 324.0689, 0.6406937, 0.256692, 0, 0, 0, 0, 4.06714, 8.97575, 5.25156, 25.1423, 16.1388, 438.27,
      198.018, 1905.02, 893.765,
    ],
  ),
  component(
    'n_butane',
    [
      58.123, 337.6389, 0.6341423, 0.281835, 0, 0, 0, 0, 4.33944, 9.44893, 6.89406, 24.4618, 14.7824, 468.27,
      183.636, 1914.1, 903.185,
    ],
  ),
  component(
    'isopentane',
    [
      72.15, 365.5999, 0.6738577, 0.332267, 0, 0, 0, 0, 4, 11.7618, 20.1101, 33.1688, 0, 292.503, 910.237,
      1919.37, 0,
    ],
  ),
  component(
    'n_pentane',
    [
      72.15, 370.6823, 0.6798307, 0.366911, 0, 0, 0, 0, 4, 8.95043, 21.836, 33.4032, 0, 178.67, 840.538,
      1774.25, 0,
    ],
  ),
  component(
    'n_hexane',
    [
      86.177, 402.636293, 0.7175118, 0.289731, 0, 0, 0, 0, 4, 11.6977, 26.8142, 38.6164, 0, 182.326, 859.207,
      1826.59, 0,
    ],
  ),
  component(
    'n_heptane',
    [
      100.204, 427.72263, 0.7525189, 0.337542, 0, 0, 0, 0, 4, 13.7266, 30.4707, 43.5561, 0, 169.789, 836.195,
      1760.46, 0,
    ],
  ),
  component(
    'n_octane',
    [
      114.231, 450.325022, 0.784955, 0.383381, 0, 0, 0, 0, 4, 15.6865, 33.8029, 48.1731, 0, 158.922, 815.064,
      1693.07, 0,
    ],
  ),
  component(
    'n_nonane',
    [
      128.258, 470.840891, 0.8152731, 0.427354, 0, 0, 0, 0, 4, 18.0241, 38.1235, 53.3415, 0, 156.854, 814.882,
      1693.79, 0,
    ],
  ),
  component(
    'n_decane',
    [
      142.285, 489.558373, 0.8437826, 0.469659, 0, 0, 0, 0, 4, 21.0069, 43.4931, 58.3657, 0, 164.947, 836.264,
      1750.24, 0,
    ],
  ),
  component(
    'hydrogen',
    [
      2.0159, 26.95794, 0.3514916, 0.034369, 0, 1, 0, 0, 2.47906, 0.95806, 0.45444, 1.56039, -1.3756, 228.734,
      326.843, 1651.71, 1671.69,
    ],
  ),
  component(
    'oxygen',
    [
      31.9988, 122.7667, 0.4186954, 0.021, 0, 0, 0, 0, 3.50146, 1.07558, 1.01334, 0, 0, 2235.71, 1116.69, 0,
      0,
    ],
  ),
  component(
    'carbon_monoxide',
    [
      28.01, 105.5348, 0.4533894, 0.038953, 0, 0, 0, 0, 3.50055, 1.02865, 0.00493, 0, 0, 1550.45, 704.525, 0,
      0,
    ],
  ),
  component(
    'water',
    [
      18.0153, 514.0156, 0.3825868, 0.3325, 1.06775, 0, 1.5822, 1, 4.00392, 0.01059, 0.98763, 3.06904, 0,
      268.795, 1141.41, 2507.37, 0,
    ],
  ),
  component(
    'hydrogen_sulfide',
    [
      34.082, 296.355, 0.4618263, 0.0885, 0.633276, 0, 0.39, 0, 4, 3.11942, 1.00243, 0, 0, 1833.63, 847.181,
      0, 0,
    ],
  ),
  component('helium', [4.0026, 2.610111, 0.3589888, 0, 0, 0, 0, 0, 2.5, 0, 0, 0, 0, 0, 0, 0, 0]),
  component('argon', [39.948, 119.6299, 0.4216551, 0, 0, 0, 0, 0, 2.5, 0, 0, 0, 0, 0, 0, 0, 0]),
]

/** n, a, b, k, u, g, q, f, s, w */
export const GAS_TERMS: readonly (readonly number[])[] = [
  [1, 0.1538326, 1, 0, 0, 0, 0, 0, 0, 0],
  [2, 1.341953, 1, 0, 0.5, 0, 0, 0, 0, 0],
  [3, -2.998583, 1, 0, 1, 0, 0, 0, 0, 0],
  [4, -0.04831228, 1, 0, 3.5, 0, 0, 0, 0, 0],
  [5, 0.3757965, 1, 0, -0.5, 1, 0, 0, 0, 0],
  [6, -1.589575, 1, 0, 4.5, 1, 0, 0, 0, 0],
  [7, -0.05358847, 1, 0, 0.5, 0, 1, 0, 0, 0],
  [8, 0.88659463, 1, 0, 7.5, 0, 0, 0, 1, 0],
  [9, -0.71023704, 1, 0, 9.5, 0, 0, 0, 1, 0],
  [10, -1.471722, 1, 0, 6, 0, 0, 0, 0, 1],
  [11, 1.32185035, 1, 0, 12, 0, 0, 0, 0, 1],
  [12, -0.78665925, 1, 0, 12.5, 0, 0, 0, 0, 1],
  [13, 2.29129e-9, 1, 3, -6, 0, 0, 1, 0, 0],
  [14, 0.1576724, 1, 2, 2, 0, 0, 0, 0, 0],
  [15, -0.4363864, 1, 2, 3, 0, 0, 0, 0, 0],
  [16, -0.04408159, 1, 2, 2, 0, 1, 0, 0, 0],
  [17, -0.003433888, 1, 4, 2, 0, 0, 0, 0, 0],
  [18, 0.03205905, 1, 4, 11, 0, 0, 0, 0, 0],
  [19, 0.02487355, 2, 0, -0.5, 0, 0, 0, 0, 0],
  [20, 0.07332279, 2, 0, 0.5, 0, 0, 0, 0, 0],
  [21, -0.001600573, 2, 2, 0, 0, 0, 0, 0, 0],
  [22, 0.6424706, 2, 2, 4, 0, 0, 0, 0, 0],
  [23, -0.4162601, 2, 2, 6, 0, 0, 0, 0, 0],
  [24, -0.06689957, 2, 4, 21, 0, 0, 0, 0, 0],
  [25, 0.2791795, 2, 4, 23, 1, 0, 0, 0, 0],
  [26, -0.6966051, 2, 4, 22, 0, 1, 0, 0, 0],
  [27, -0.002860589, 2, 4, -1, 0, 0, 1, 0, 0],
  [28, -0.008098836, 3, 0, -0.5, 0, 1, 0, 0, 0],
  [29, 3.150547, 3, 1, 7, 1, 0, 0, 0, 0],
  [30, 0.007224479, 3, 1, -1, 0, 0, 1, 0, 0],
  [31, -0.7057529, 3, 2, 6, 0, 0, 0, 0, 0],
  [32, 0.5349792, 3, 2, 4, 1, 0, 0, 0, 0],
  [33, -0.07931491, 3, 3, 1, 1, 0, 0, 0, 0],
  [34, -1.418465, 3, 3, 9, 1, 0, 0, 0, 0],
  [35, -5.99905e-17, 3, 4, -13, 0, 0, 1, 0, 0],
  [36, 0.1058402, 3, 4, 21, 0, 0, 0, 0, 0],
  [37, 0.03431729, 3, 4, 8, 0, 1, 0, 0, 0],
  [38, -0.007022847, 4, 0, -0.5, 0, 0, 0, 0, 0],
  [39, 0.02495587, 4, 0, 0, 0, 0, 0, 0, 0],
  [40, 0.04296818, 4, 2, 2, 0, 0, 0, 0, 0],
  [41, 0.7465453, 4, 2, 7, 0, 0, 0, 0, 0],
  [42, -0.2919613, 4, 2, 9, 0, 1, 0, 0, 0],
  [43, 7.294616, 4, 4, 22, 0, 0, 0, 0, 0],
  [44, -9.936757, 4, 4, 23, 0, 0, 0, 0, 0],
  [45, -0.005399808, 5, 0, 1, 0, 0, 0, 0, 0],
  [46, -0.2432567, 5, 2, 9, 0, 0, 0, 0, 0],
  [47, 0.04987016, 5, 2, 3, 0, 1, 0, 0, 0],
  [48, 0.003733797, 5, 4, 8, 0, 0, 0, 0, 0],
  [49, 1.874951, 5, 4, 23, 0, 1, 0, 0, 0],
  [50, 0.002168144, 6, 0, 1.5, 0, 0, 0, 0, 0],
  [51, -0.6587164, 6, 2, 5, 1, 0, 0, 0, 0],
  [52, 0.000205518, 7, 0, -0.5, 0, 1, 0, 0, 0],
  [53, 0.009776195, 7, 2, 4, 0, 0, 0, 0, 0],
  [54, -0.02048708, 8, 1, 7, 1, 0, 0, 0, 0],
  [55, 0.01557322, 8, 2, 3, 0, 0, 0, 0, 0],
  [56, 0.006862415, 8, 2, 0, 1, 0, 0, 0, 0],
  [57, -0.001226752, 9, 2, 1, 0, 0, 0, 0, 0],
  [58, 0.002850908, 9, 2, 0, 0, 1, 0, 0, 0],
]

export type GasPair = readonly [GasKey, GasKey, number]
export const PAIRS_E: readonly GasPair[] = [
  ['methane', 'nitrogen', 0.97164],
  ['methane', 'carbon_dioxide', 0.960644],
  ['methane', 'propane', 0.994635],
  ['methane', 'isobutane', 1.01953],
  ['methane', 'n_butane', 0.989844],
  ['methane', 'isopentane', 1.00235],
  ['methane', 'n_pentane', 0.999268],
  ['methane', 'n_hexane', 1.107274],
  ['methane', 'n_heptane', 0.88088],
  ['methane', 'n_octane', 0.880973],
  ['methane', 'n_nonane', 0.881067],
  ['methane', 'n_decane', 0.881161],
  ['methane', 'hydrogen', 1.17052],
  ['methane', 'carbon_monoxide', 0.990126],
  ['methane', 'water', 0.708218],
  ['methane', 'hydrogen_sulfide', 0.931484],
  ['nitrogen', 'carbon_dioxide', 1.02274],
  ['nitrogen', 'ethane', 0.97012],
  ['nitrogen', 'propane', 0.945939],
  ['nitrogen', 'isobutane', 0.946914],
  ['nitrogen', 'n_butane', 0.973384],
  ['nitrogen', 'isopentane', 0.95934],
  ['nitrogen', 'n_pentane', 0.94552],
  ['nitrogen', 'hydrogen', 1.08632],
  ['nitrogen', 'oxygen', 1.021],
  ['nitrogen', 'carbon_monoxide', 1.00571],
  ['nitrogen', 'water', 0.746954],
  ['nitrogen', 'hydrogen_sulfide', 0.902271],
  ['carbon_dioxide', 'ethane', 0.925053],
  ['carbon_dioxide', 'propane', 0.960237],
  ['carbon_dioxide', 'isobutane', 0.906849],
  ['carbon_dioxide', 'n_butane', 0.897362],
  ['carbon_dioxide', 'isopentane', 0.726255],
  ['carbon_dioxide', 'n_pentane', 0.859764],
  ['carbon_dioxide', 'n_hexane', 0.855134],
  ['carbon_dioxide', 'n_heptane', 0.831229],
  ['carbon_dioxide', 'n_octane', 0.80831],
  ['carbon_dioxide', 'n_nonane', 0.786323],
  ['carbon_dioxide', 'n_decane', 0.765171],
  ['carbon_dioxide', 'hydrogen', 1.28179],
  ['carbon_dioxide', 'carbon_monoxide', 1.5],
  ['carbon_dioxide', 'water', 0.849408],
  ['carbon_dioxide', 'hydrogen_sulfide', 0.955052],
  ['ethane', 'propane', 1.02256],
  ['ethane', 'n_butane', 1.01306],
  ['ethane', 'n_pentane', 1.00532],
  ['ethane', 'hydrogen', 1.16446],
  ['ethane', 'water', 0.693168],
  ['ethane', 'hydrogen_sulfide', 0.946871],
  ['propane', 'n_butane', 1.0049],
  ['propane', 'hydrogen', 1.034787],
  ['isobutane', 'hydrogen', 1.3],
  ['n_butane', 'hydrogen', 1.3],
  ['n_hexane', 'hydrogen_sulfide', 1.008692],
  ['n_heptane', 'hydrogen_sulfide', 1.010126],
  ['n_octane', 'hydrogen_sulfide', 1.011501],
  ['n_nonane', 'hydrogen_sulfide', 1.012821],
  ['n_decane', 'hydrogen_sulfide', 1.014089],
  ['hydrogen', 'carbon_monoxide', 1.1],
]
export const PAIRS_U: readonly GasPair[] = [
  ['methane', 'nitrogen', 0.886106],
  ['methane', 'carbon_dioxide', 0.963827],
  ['methane', 'propane', 0.990877],
  ['methane', 'n_butane', 0.992291],
  ['methane', 'n_pentane', 1.00367],
  ['methane', 'n_hexane', 1.302576],
  ['methane', 'n_heptane', 1.191904],
  ['methane', 'n_octane', 1.205769],
  ['methane', 'n_nonane', 1.219634],
  ['methane', 'n_decane', 1.233498],
  ['methane', 'hydrogen', 1.15639],
  ['methane', 'hydrogen_sulfide', 0.736833],
  ['nitrogen', 'carbon_dioxide', 0.835058],
  ['nitrogen', 'ethane', 0.816431],
  ['nitrogen', 'propane', 0.915502],
  ['nitrogen', 'n_butane', 0.993556],
  ['nitrogen', 'hydrogen', 0.408838],
  ['nitrogen', 'hydrogen_sulfide', 0.993476],
  ['carbon_dioxide', 'ethane', 0.96987],
  ['carbon_dioxide', 'n_hexane', 1.066638],
  ['carbon_dioxide', 'n_heptane', 1.077634],
  ['carbon_dioxide', 'n_octane', 1.088178],
  ['carbon_dioxide', 'n_nonane', 1.098291],
  ['carbon_dioxide', 'n_decane', 1.108021],
  ['carbon_dioxide', 'carbon_monoxide', 0.9],
  ['carbon_dioxide', 'hydrogen_sulfide', 1.04529],
  ['ethane', 'propane', 1.065173],
  ['ethane', 'isobutane', 1.25],
  ['ethane', 'n_butane', 1.25],
  ['ethane', 'isopentane', 1.25],
  ['ethane', 'n_pentane', 1.25],
  ['ethane', 'hydrogen', 1.61666],
  ['ethane', 'hydrogen_sulfide', 0.971926],
  ['n_hexane', 'hydrogen_sulfide', 1.028973],
  ['n_heptane', 'hydrogen_sulfide', 1.033754],
  ['n_octane', 'hydrogen_sulfide', 1.038338],
  ['n_nonane', 'hydrogen_sulfide', 1.042735],
  ['n_decane', 'hydrogen_sulfide', 1.046966],
]
export const PAIRS_K: readonly GasPair[] = [
  ['methane', 'nitrogen', 1.00363],
  ['methane', 'carbon_dioxide', 0.995933],
  ['methane', 'propane', 1.007619],
  ['methane', 'n_butane', 0.997596],
  ['methane', 'n_pentane', 1.002529],
  ['methane', 'n_hexane', 0.982962],
  ['methane', 'n_heptane', 0.983565],
  ['methane', 'n_octane', 0.982707],
  ['methane', 'n_nonane', 0.981849],
  ['methane', 'n_decane', 0.980991],
  ['methane', 'hydrogen', 1.02326],
  ['methane', 'hydrogen_sulfide', 1.00008],
  ['nitrogen', 'carbon_dioxide', 0.982361],
  ['nitrogen', 'ethane', 1.00796],
  ['nitrogen', 'hydrogen', 1.03227],
  ['nitrogen', 'hydrogen_sulfide', 0.942596],
  ['carbon_dioxide', 'ethane', 1.00851],
  ['carbon_dioxide', 'n_hexane', 0.910183],
  ['carbon_dioxide', 'n_heptane', 0.895362],
  ['carbon_dioxide', 'n_octane', 0.881152],
  ['carbon_dioxide', 'n_nonane', 0.86752],
  ['carbon_dioxide', 'n_decane', 0.854406],
  ['carbon_dioxide', 'hydrogen_sulfide', 1.00779],
  ['ethane', 'propane', 0.986893],
  ['ethane', 'hydrogen', 1.02034],
  ['ethane', 'hydrogen_sulfide', 0.999969],
  ['n_hexane', 'hydrogen_sulfide', 0.96813],
  ['n_heptane', 'hydrogen_sulfide', 0.96287],
  ['n_octane', 'hydrogen_sulfide', 0.957828],
  ['n_nonane', 'hydrogen_sulfide', 0.952441],
  ['n_decane', 'hydrogen_sulfide', 0.948338],
]
export const PAIRS_G: readonly GasPair[] = [
  ['methane', 'carbon_dioxide', 0.807653],
  ['methane', 'hydrogen', 1.95731],
  ['nitrogen', 'carbon_dioxide', 0.982746],
  ['carbon_dioxide', 'ethane', 0.370296],
  ['carbon_dioxide', 'water', 1.67309],
]
