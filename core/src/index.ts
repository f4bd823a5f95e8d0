export { readFormula, type Formula, type FormulaChannel } from './formula/formula.js';
export { known, overSpeed, seriesAt, seriesBetween, seriesDifference, type Series } from './traces/series.js';
export { relationOf, type Relation } from './traces/relation.js';
export { stretchOf, type Stretch } from './traces/stretch.js';
export { deskChannels, type DeskChannel, type DeskLog } from './traces/desk-channels.js';
export { madeOnce } from './made-once.js';
export { GezeitError, type RefusalNature, conflict, missing } from './errors.js';
export { UNITS, type UnitName, convert, differenceFromSi, dimensionOf, fromSi, toSi } from './units/units.js';
export { unitFromText } from './units/unit-spellings.js';
export { USUAL_UNITS, fieldUnit, isUnit, ownUnit, shownUnitOf, shownValueOf } from './units/shown-unit.js';
export { numberText, typedNumber } from './units/typed-number.js';
export { absolutePressurePa, stationPressurePa } from './units/pressure.js';
export { powerFromTorqueW } from './units/power.js';
export { dewPointC, saturationPressureOverIcePa, saturationPressurePa } from './air/saturation.js';
export {
  compressedVapourPressurePa,
  condensation,
  dryPressurePa,
  humidityRatio,
  humidityRatioFromWetBulb,
  moistAirDensity,
  vapourPressureFromRatioPa,
  vapourPressurePa,
  viscosityPaS,
} from './air/moist-air.js';
export { densityAltitudeM, pressureAltitudeM } from './air/atmosphere.js';
export { massFlowKgS, volumeFlowAtState } from './air/standard-flow.js';
export {
  compressionIgnition,
  convertCorrected,
  correctionFactor,
  din70020,
  iso1585Spark,
  saeJ1349,
  saeJ1349WithFriction,
  stdJ607,
} from './correction/standards.js';
export { boostedEstimate } from './correction/boosted.js';
export {
  AIR_PER_POWER,
  type Strokes,
  airDemandKgS,
  airDemandOfPowerKgS,
  dryAirDensity,
  volumetricEfficiency,
} from './demand/air-demand.js';
export { airOfFuelKgS, airOverMeterFromTrims, fuelFlowKgS, meterShift } from './demand/injector-witness.js';
export { chokingRatio, dropOfAreaPa, effectiveAreaM2, nozzleAreaM2, nozzleFlowKgS } from './flow/effective-area.js';
export { areaAfterReplacingM2, areasInParallelM2, areasInSeriesM2 } from './flow/combine-areas.js';
export { dropAtOtherFlowPa, dropOfLaw, flowAtDropM3S, lawOfArea } from './flow/drop-law.js';
export { fitDropLaw } from './flow/fit-drop-law.js';
export { depressionReduction, flowAtDepression, flowGainOfReduction } from './flow/test-depression.js';
export { netFlow, plateCheck } from './flow/flow-bench.js';
export { type PressureTaps, orificeFlow } from './flow/orifice.js';
export { gainOfLessRestriction } from './flow/restriction-cost.js';
export { leakAtPressure, leakRateKgS, leakedMassKg } from './flow/pressure-decay.js';
export { traverseFlow } from './opening/traverse.js';
export { areaForVelocity, ramPressure, sufficientSpeed } from './opening/opening-area.js';
export { coneMedia, panelMediaM2 } from './filter/media.js';
export { loadedDropPa, serviceInterval } from './filter/loading.js';
export { dustAccounted, filterEfficiency, penetrationRatio } from './filter/efficiency.js';
export { compress, compressorEfficiency, compressorPressures, correctedFlowKgS, correctedSpeedRpm } from './compressor/compression.js';
export { inletLossCost } from './compressor/inlet-loss.js';
export { coolerTest, counterflowEffectiveness, crossflowEffectiveness, transferUnitsFor } from './cooler/effectiveness.js';
export { breakEvenDropPa, densityRatio } from './cooler/density-recovery.js';
export { coreAfter, fitRecovery, timeToGoalS } from './cooler/core-mass.js';
export { rotatingMass, wheelPower } from './road/wheel-power.js';
export { rollerEnergy, rollerPower, slipBetween } from './roller/inertia-roller.js';
export { correctedTrace, gasTemperatureC } from './cooler/sensor-lag.js';
export { keptAssumption, shownAssumption } from './judge/assumption-fields.js';
export { type NoiseBelief, defaultAssumptions, noiseFromHistory, noiseFromRepeatability } from './judge/assumptions.js';
export { type PullSeries } from './judge/series.js';
export { type FourEstimates, fitAsRun, fitLevelled, fourEstimates } from './judge/estimates.js';
export { type Fit } from './judge/fit.js';
export { ignitionDifferenceDeg } from './judge/ignition-difference.js';
export { boostThresholdLn } from './judge/manifold-scatter.js';
export { type PlannedSeries, achievedResolution, planResolution } from './judge/resolution.js';
export { type LogColumn, type LogTable, type ReadReport } from './log/log-table.js';
export { readLog } from './log/read-log.js';
export type { LooseFile, ReadingOptions, ReadLoose } from './reading/loose-file.js';
export { readingOf, readLoose } from './reading/read-files.js';
export { draftOf } from './reading/draft.js';
export { deviceKind } from './reading/device-kind.js';
export { hintsOf } from './reading/hints.js';
export { setupsByName } from './reading/setups-by-name.js';
export { type StandingPull } from './reading/by-hand.js';
export { keptBundle, keptPulls } from './reading/kept-bundle.js';
export { wallMs } from './units/wall-time.js';
export { quantityFromName } from './channels/recognise.js';
export { takeHeaderApart } from './channels/header.js';
export { QUANTITY_UNITS, unitsFor } from './channels/quantity-units.js';
export { meaningOf } from './channels/meaning.js';
export { decidedChannels } from './channels/calibration.js';
export { gainVerdict, noLossVerdict } from './judge/verdict.js';
export { mean, meanInterval, median, pooledDifference } from './numeric/means.js';
export { interpolate } from './numeric/interpolate.js';
export { dayOrder, knownResets } from './pull/day-order.js';
export { type MeasuredPull, measurePulls, measuredFrom } from './pull/measure.js';
export { CHECKS } from './checks/index.js';
export { studentQuantile } from './numeric/distributions.js';
export { isHeld } from './checks/boost-low.js';
export { findSweeps, pullSweeps } from './pull/sweep.js';
export { onEveryPull } from './compare/analysed-pull.js';
export { steadyCooler } from './cooler/steady-cooler.js';
export { assumptionsFor } from './compare/assumptions-for.js';
export { comparedPairs, referenceFor, stateClouds } from './compare/state-clouds.js';
export { claimQuestion } from './compare/terms.js';
export { evidenceFor } from './questions/limit.js';
export { type Analysis, judgeOf } from './findings/findings-of.js';
export { isPowerWithheld, leadingEstimate } from './findings/leading.js';
export { claimFromText } from './question/claim-text.js';
export { analyse, analyseMeasured, analyseWithLeaning, checkClaim, choicesOfMeasured } from './analyse.js';
export { withLeaning } from './findings/leaning.js';
export { sentence, plain, signed, tied } from './format/values.js';
export { type FigureKind, type Formatter } from './format/formatter.js';
export { calibrationTerms } from './words/calibration-text.js';
export { PLAIN_FORMATTER, formatterFor } from './format/plain-formatter.js';
export { AMENDED_WORDS, CORRECTION_NAMES, LEFT_OUT_WORDS, METRIC_WORDS } from './words/labels.js';
export { FLAG_WORDS } from './words/checks/index.js';
export { plausibleText } from './words/plausible-text.js';
export { QUESTION_LABELS, answerWord } from './words/questions/index.js';
export { ESTIMATE_WORDS, VERDICT_WORDS, maskedSentence, sameAirShort } from './words/comparison-words.js';
export {
  AGREES_WORDS,
  CAUSE_WORDS,
  HABIT_WORDS,
  HINT_WORDS,
  READS_AS,
  channelFigure,
  choiceText,
  whyHabitsDiffer,
  witnessLabel,
} from './words/verdict-words.js';
export { channelWord } from './words/labels.js';
export { say, withWords } from './words/say.js';
export { withAnswerWords } from './words/say-answers.js';
export { headlineOf } from './words/headline.js';
export {
  gateTargetText,
  gateUnitText,
  gateValueText,
  isByEye,
  minutesText,
  passedText,
  roadSpeedText,
  stopText,
} from './words/rule-words.js';
export { dayRefusalError } from './words/day-refusals.js';
export { gateListText, nextSteps, reasonOf, titleOf, trendText, waitText } from './words/day-words.js';
export { enoughText, lengthText, lettersOf, resolutionText } from './words/plan-words.js';
export { tideOf } from './findings/tide.js';
export { curvesOf } from './findings/curves.js';
export { listAssumptions } from './findings/assumption-list.js';
export { lineAcross, planeAt, type Place } from './road/plane.js';
export { DRIVE_RULES } from './pull/drive-course.js';
export { changeText } from './words/change-words.js';
export { DEVICE_WORDS, HOW_WORDS } from './words/device-words.js';
export { quantityWords } from './channels/quantity-words.js';
export { reasonsText } from './log/report-words.js';
export { UNNAMED_CAR, UNNAMED_CELL, draftProgramme, proposedBandRpm, proposedCorrection, proposedQuestion } from './question/defaults.js';
export { CONDITION_WORDS, programmeGaps } from './question/gaps.js';
export { BOUND_WARNINGS, duplicateSetup, intermediateSetups, missingReferences, nextSetupId } from './question/setups.js';
export {
  type BenchRow,
  type ChoiceField,
  type Field,
  type InputProblem,
  type ListField,
  type NumberField,
  type TableField,
  type TextField,
  checkInputs,
  whyText,
} from './bench/fields.js';
export {
  type BenchChart,
  type ChartAxis,
  type Instrument,
  type RowReading,
  assumptionsOf,
  evidenceFrom,
  measure,
  sweep,
} from './bench/instrument.js';
export { FORMULA_TEXTS } from './bench/formula-texts.js';
export { groupsAlike } from './bench/statistics.js';
export { readTableCsv, writeTableCsv } from './bench/table-csv.js';
export { INSTRUMENTS, instrumentById } from './bench/instruments/index.js';
export { benchParts, type BenchPart } from './bench/instruments/flow-bench-parts.js';
export { demandAt } from './bench/instruments/air-demand.js';
export { compressorMapCsv, inventedCompressorMap, placeOnMap, readCompressorMap } from './compressor/compressor-map.js';
export { GEOMETRY_FIELDS, LOSS_ASSUMPTIONS, dropOfLossPa, lawOfGeometry, sectionLoss } from './bench/section-loss.js';
export {
  BOOST_ASSUMPTIONS,
  type Budget,
  type BudgetConditions,
  type BudgetSection,
  budgetConditions,
  budgetEvidence,
  claimInReach,
  gainAtMost,
  inOrderOfTheWay,
  restrictionBudget,
} from './bench/budget.js';
export { claimKW } from './units/claimed.js';
export { lossFromBench } from './bench/take-over.js';
export { PLAN_TIMES, pullsFromLetters, scheduled, swapCount, swapMinutes, withConditioning } from './plan/schedule.js';
export { plannedResolution } from './plan/planned-resolution.js';
export { gateQuantity, shiftableGate } from './channels/gate-quantity.js';
export { columnText, planReport } from './words/plan-warnings.js';
export { practices } from './plan/practices.js';
export { practiceText } from './words/practice-words.js';
export { type Suggestion, type SuggestionProblem, type SuggestionResult, suggestOrder } from './plan/suggest.js';
export { HEAT_FORECAST, type HeatForecast, forecastTide } from './plan/forecast.js';
export { blockOf, changePull, insertPulls, movePulls, removePulls, repeatPulls } from './plan/edit-plan.js';
export { GATES_OFFERED, STOPS_OFFERED, defaultGates } from './plan/day-rules.js';
export { defaultStops } from './plan/stops.js';
export { CHECKLIST_WORDS, checklist, checklists } from './plan/checklists.js';
export { oneWaySwaps, withoutWayBack } from './plan/one-way.js';
export { planMatrix } from './plan/matrix.js';
export { learnHeat } from './plan/learn-heat.js';
export { LineStream } from './log/line-stream.js';
export { type DayPull, type DayState, checkKey, wasAway } from './day/day-state.js';
export { amendedParts, dayState } from './day/follow-day.js';
export { type CellNow, type GateStanding, type GateView, ambientNow, gateViews } from './day/gates.js';
export { type ReadyMoment } from './day/ready-time.js';
export { type Instruction, gatesFor, instruct } from './day/instruction.js';
export { isStreamed, passedStop } from './day/stop-criteria.js';
export { DETECTOR_RULES, type Detected, type DetectorSample, PullDetector } from './day/pull-detector.js';
export { dayFileOf, weatherAt } from './day/day-file.js';
export { type DeviceFile, type DrivenMoment, matchFiles, matchMore, offsetText } from './day/match-files.js';
export { dayResolution, worstResolvable } from './day/day-resolution.js';
export { isNoGood, type PullCheck, pullChecks, type PullOfDay } from './day/pull-checks.js';
export { channelZeros } from './day/pressure-zero.js';
export { dayRefusal, checkedOf, leftUndone, oneWayFrom, openItems, readyForFirstPull } from './day/admit.js';
export { lacksWeather, nextPullId, pullStart } from './day/pull-start.js';
export { weatherNow } from './day/weather-now.js';
export { isPossibleAir } from './air/possible-air.js';
export { isTimeZone, knownZone, zoneOf } from './units/time-zone.js';
export { pullReasonWord } from './words/pull-reason.js';
export { bandPartLabel, shapeText } from './words/curve-words.js';
export { courseWords, drivePairWords } from './words/drive-words.js';
export { coolingText, effectivenessText, equalStartText, steadyCoolerText } from './words/heat-words.js';
export { pullOfDayText } from './words/pull-of-day-words.js';
export { endsOrOnce, stepText } from './words/restriction-words.js';
export { roadPairText } from './words/road-words.js';
export { tideSourceText } from './words/tide-words.js';
export { sheetOf, type Sheet, type SheetRow } from './sheet/sheet.js';
export { type Statement } from './sheet/statements.js';
export { differingFigures } from './sheet/check-again.js';
export { inputWord } from './words/input-words.js';
export { publicVersionOf, type PublicVersion } from './sheet/public-version.js';
export { sideBySideOf } from './sheet/side-by-side.js';
