/** What wrote a file, in words. */
export const DEVICE_WORDS: Readonly<Record<string, string>> = {
  ecu: 'engine control unit',
  dyno: 'dyno',
  daq: 'data box',
  weather: 'weather station',
  unknown: 'unknown device',
};

/** How a file was put upon the pull's clock, in words. */
export const HOW_WORDS: Readonly<Record<string, string>> = {
  first: 'its clock is the pull’s',
  'engine-speed': 'by engine speed',
  'roller-speed': 'by roller speed',
  'vehicle-speed': 'by vehicle speed',
  step: 'by the end of full throttle',
  trigger: 'by its trigger',
  clock: 'by the clocks alone',
  order: 'by order alone',
  hand: 'by hand',
  assumed: 'assumed',
  curve: 'a curve over engine speed',
};
