import type { Quantity } from '@gezeit/contract';

/** What a column of the known table is: a quantity with its section, or a distractor. */
export type Key = Quantity | `pressureDrop/${string}` | `none/${string}`;

/** How one way of naming calls the columns; where two names stand, each is met. */
export interface Habit {
  name: string;
  /** Names of the ways kept out of the word tables until the end. */
  heldOut: boolean;
  names: Partial<Record<Key, string>>;
}

const habit = (name: string, heldOut: boolean, lines: string): Habit => ({
  name,
  heldOut,
  names: Object.fromEntries(
    lines
      .trim()
      .split('\n')
      .map((line) => line.trim().split(' = ') as [Key, string]),
  ) as Habit['names'],
});

/** Ways of naming, made up for this test from words of the field. Several names of one column are parted by " | ". */
export const HABITS: readonly Habit[] = [
  habit(
    'plain',
    false,
    `time = Time | Elapsed time | t
engineSpeed = Engine RPM | RPM | Engine speed | Revs
vehicleSpeed = Vehicle speed | Road speed | GPS speed
throttle = Throttle | TPS | Throttle position
pedal = Pedal | Accelerator | APP
manifoldPressure = MAP | Manifold pressure | Intake manifold pressure
boostPressure = Boost | Boost pressure | Gauge boost
intakeAirTemperature = IAT | Intake temp | Intake air temperature
airMassFlow = MAF | Air flow | Mass air flow
lambda = Lambda | Wideband lambda | Lambda 1
ignitionAdvance = Ignition | Ign | Spark | Timing advance
knockRetard = Knock retard | KR | Knock
injectorTime = Injector PW | Inj time | Injection time
shortTermTrim = STFT | Short trim
longTermTrim = LTFT | Long fuel trim
coolantTemperature = Coolant | Water temp | ECT
oilTemperature = Oil temp | EOT
wastegateDuty = WG duty | Wastegate
rollerSpeed = Roller speed | Drum speed
power = Power | Wheel power | Power at the wheels
torque = Torque | Wheel torque | Tq
ambientTemperature = Ambient temp | Cell temperature | Room temp
ambientPressure = Baro | Barometric pressure | Ambient pressure
relativeHumidity = Humidity | RH | Relative humidity
inletTemperature = Inlet temp | Pre turbo temp | Air temp before compressor
compressorOutTemperature = Compressor out temp | Temp after turbo | Pre-cooler temp
coolerOutTemperature = Cooler out temp | Post IC temp | Charge temp after cooler
inletPressure = Inlet pressure | Pre-filter pressure | Compressor inlet pressure
pressureDrop/filter = Filter drop | Filter dP | Restriction filter
pressureDrop/duct = Duct drop | Duct delta P
pressureDrop/cooler = Cooler drop | Intercooler pressure drop
compressorSpeed = Turbo speed | Turbo RPM | Compressor speed
coolantInTemperature = Charge cooler water in | Cooler coolant inlet temp
coolantOutTemperature = Charge cooler water out | Cooler coolant outlet temp
exhaustTemperature = EGT | Exhaust gas temp
none/oilPressure = Oil pressure | Oil press
none/target = Lambda target | Boost target | Desired boost
none/tyre = Tyre temp FL | Tyre temp RR
none/brake = Brake pressure | Brake
none/cam = Cam angle intake | Exhaust cam
none/battery = Battery voltage | Vbat
none/fuelPressure = Fuel pressure | Rail pressure
none/steering = Steering angle
none/marker = Marker | Trigger count
none/load = Engine load | Calculated load
none/g = Lateral G | Acceleration X
none/gearbox = Gearbox oil temp | Diff oil temp`,
  ),
  habit(
    'long',
    false,
    `time = Time since start of recording | Logger time
engineSpeed = Rotational speed of the engine | Crankshaft speed | Engine revolutions
vehicleSpeed = Speed of the vehicle | Measured vehicle speed
throttle = Throttle plate angle in percent | Throttle valve opening | Actual throttle position
pedal = Accelerator pedal position | Pedal travel
manifoldPressure = Absolute pressure in the intake manifold | Manifold absolute pressure | Plenum pressure absolute
boostPressure = Charge pressure relative to ambient | Relative boost pressure | Boost pressure (gauge)
intakeAirTemperature = Temperature of the air in the intake manifold | Charge air temperature in plenum | Manifold air temperature
airMassFlow = Mass flow of the intake air | Intake air mass flow | Air mass flow rate
lambda = Measured lambda of the exhaust gas | Air fuel ratio lambda | Wideband sensor lambda
ignitionAdvance = Ignition advance angle | Spark timing | Ignition timing angle
knockRetard = Ignition retard by knock control | Knock correction | Timing pulled by knock
injectorTime = Opening time of the injectors | Injector pulse width | Fuel injection duration
shortTermTrim = Short term fuel correction | Short-term mixture trim
longTermTrim = Long term fuel correction | Long-term mixture trim
coolantTemperature = Temperature of the engine coolant | Engine coolant temperature
oilTemperature = Temperature of the engine oil | Engine oil temperature | Oil sump temperature
wastegateDuty = Duty cycle of the wastegate valve | Wastegate control duty
rollerSpeed = Circumferential speed of the roller | Roller surface speed | Dyno roller speed
power = Measured wheel power | Power at the roller | Power at the hubs
torque = Measured wheel torque | Torque at the wheels | Engine torque
ambientTemperature = Temperature of the ambient air | Ambient air temperature | Air temperature in the cell
ambientPressure = Atmospheric pressure in the cell | Ambient air pressure
relativeHumidity = Relative humidity of the ambient air | Air humidity
inletTemperature = Air temperature at the compressor inlet | Temperature in front of the turbocharger inlet | Airbox temperature
compressorOutTemperature = Air temperature at the compressor outlet | Compressor discharge temperature | Temperature upstream of the charge air cooler
coolerOutTemperature = Air temperature at the charge cooler outlet | Temperature downstream of the intercooler
inletPressure = Pressure at the compressor inlet | Absolute pressure before the turbocharger
pressureDrop/filter = Pressure drop across the air filter | Differential pressure over the filter element | Pressure loss air filter
pressureDrop/duct = Pressure drop across the intake duct | Differential pressure of the inlet pipe
pressureDrop/cooler = Pressure drop across the charge air cooler | Differential pressure intercooler
compressorSpeed = Rotational speed of the turbocharger | Turbocharger shaft speed
coolantInTemperature = Coolant temperature at the charge cooler inlet | Water temperature into the intercooler
coolantOutTemperature = Coolant temperature at the charge cooler outlet | Water temperature out of the intercooler
exhaustTemperature = Exhaust gas temperature before turbine | Temperature of the exhaust gas
none/oilPressure = Engine oil pressure
none/target = Requested boost pressure | Target ignition angle | Commanded lambda
none/tyre = Tyre surface temperature front left
none/brake = Brake line pressure front
none/cam = Intake camshaft angle | Camshaft position exhaust
none/battery = Supply voltage | Battery voltage
none/fuelPressure = Fuel rail pressure
none/steering = Steering wheel angle
none/marker = Event counter
none/load = Relative engine load
none/g = Lateral acceleration
none/gearbox = Transmission oil temperature`,
  ),
  habit(
    'snake',
    false,
    `time = time | log_time | elapsed_s
engineSpeed = engine_rpm | eng_speed | engine_speed_act
vehicleSpeed = veh_speed | vehicle_spd
throttle = throttle_pos | tps_main | throttle_pct
pedal = pedal_pos | accel_pedal
manifoldPressure = map_abs | manifold_press | intake_manifold_pressure
boostPressure = boost_press | boost_gauge
intakeAirTemperature = intake_air_temp | iat_1 | manifold_air_temp
airMassFlow = maf | air_mass_flow | maf_rate
lambda = lambda_act | lambda_1 | wb_lambda
ignitionAdvance = ign_advance | spark_adv | ign_angle
knockRetard = knock_retard | knk_ret
injectorTime = inj_pw | injector_time | inj_duration
shortTermTrim = stft_b1 | short_term_trim
longTermTrim = ltft_b1 | long_term_trim
coolantTemperature = coolant_temp | ect | eng_coolant_temp
oilTemperature = oil_temp | eng_oil_temp
wastegateDuty = wg_duty | wastegate_dc
rollerSpeed = roller_speed | drum_spd
power = wheel_power | power_uncorr | pwr_whl
torque = wheel_torque | torque_whl | trq
ambientTemperature = ambient_temp | amb_temp | cell_temp
ambientPressure = baro_press | amb_pressure | atm_press
relativeHumidity = rel_humidity | humidity
inletTemperature = inlet_temp | comp_in_temp | airbox_temp
compressorOutTemperature = comp_out_temp | temp_post_comp | turbo_out_temp
coolerOutTemperature = cooler_out_temp | temp_post_ic | ic_out_temp
inletPressure = inlet_press | comp_in_press | pre_turbo_press
pressureDrop/filter = dp_filter | filter_dp | press_drop_filter
pressureDrop/duct = dp_duct | duct_dp
pressureDrop/cooler = dp_cooler | ic_dp | press_drop_ic
compressorSpeed = turbo_speed | turbo_rpm | comp_speed
coolantInTemperature = ic_water_in_temp | cooler_coolant_in_temp
coolantOutTemperature = ic_water_out_temp | cooler_coolant_out_temp
exhaustTemperature = egt_1 | exh_gas_temp
none/oilPressure = oil_press
none/target = boost_target | lambda_set | throttle_req
none/tyre = tyre_temp_fl
none/brake = brake_press_f
none/cam = cam_angle_in
none/battery = batt_volt
none/fuelPressure = fuel_press
none/steering = steer_angle
none/marker = trig_cnt
none/load = eng_load
none/g = acc_lat
none/gearbox = gbx_oil_temp`,
  ),
  habit(
    'camel',
    false,
    `time = time | logTime | elapsedTime
engineSpeed = engineSpeed | EngineRPM | engRpm
vehicleSpeed = vehicleSpeed | VehSpeed
throttle = throttlePosition | ThrottlePos | thrPos
pedal = pedalPosition | AccelPedal
manifoldPressure = manifoldPressure | ManifoldAbsPressure | mapAbs
boostPressure = boostPressure | BoostPress
intakeAirTemperature = intakeAirTemp | IntakeTemp | manifoldAirTemp
airMassFlow = airMassFlow | MassAirFlow | mafFlow
lambda = lambda | LambdaAct | exhaustLambda
ignitionAdvance = ignitionAdvance | SparkAdvance | ignAngle
knockRetard = knockRetard | KnockRetard
injectorTime = injectorPulseWidth | InjTime
shortTermTrim = shortTermTrim | ShortTermFuelTrim
longTermTrim = longTermTrim | LongTermFuelTrim
coolantTemperature = coolantTemp | EngCoolantTemp
oilTemperature = oilTemp | EngOilTemp
wastegateDuty = wastegateDuty | WGDuty
rollerSpeed = rollerSpeed | RollerSpd
power = wheelPower | PowerWheel
torque = wheelTorque | TorqueWheel
ambientTemperature = ambientTemp | AmbTemp | cellTemp
ambientPressure = ambientPressure | BaroPress | baroPressure
relativeHumidity = relHumidity | RelativeHumidity
inletTemperature = inletTemp | CompInTemp | compressorInletTemp
compressorOutTemperature = compressorOutTemp | CompOutTemp | turboOutTemp
coolerOutTemperature = coolerOutTemp | IntercoolerOutTemp
inletPressure = inletPressure | CompInPress
pressureDrop/filter = filterDrop | dpFilter | FilterPressureDrop
pressureDrop/duct = ductDrop | dpDuct
pressureDrop/cooler = coolerDrop | dpCooler | IntercoolerDeltaP
compressorSpeed = turboSpeed | TurboRPM | compressorSpeed
coolantInTemperature = coolerCoolantInTemp | ChargeCoolerWaterIn
coolantOutTemperature = coolerCoolantOutTemp | ChargeCoolerWaterOut
exhaustTemperature = exhaustTemp | EGT1
none/oilPressure = oilPressure
none/target = boostTarget | LambdaTarget
none/tyre = tyreTempFL
none/brake = brakePressure
none/cam = camAngleIntake
none/battery = batteryVoltage
none/fuelPressure = fuelPressure
none/steering = steeringAngle
none/marker = eventMarker
none/load = engineLoad
none/g = lateralAccel
none/gearbox = gearboxOilTemp`,
  ),
  habit(
    'capitals',
    false,
    `time = TIME | T_LOG
engineSpeed = N_ENG | ENG SPD | RPM | ENGINE SPEED
vehicleSpeed = VEH SPD | V_VEH | VSS
throttle = TPS | THR POS | THROTTLE
pedal = APP | PEDAL POS | ACC PEDAL
manifoldPressure = MAP | MAN PRS | P_MAN
boostPressure = BOOST | BST PRS
intakeAirTemperature = IAT | T_INT AIR | INT AIR TMP
airMassFlow = MAF | AIR FLOW
lambda = LAMBDA | LAM 1
ignitionAdvance = IGN ADV | IGN ANG | SPK ADV
knockRetard = KNK RET | KR
injectorTime = INJ PW | INJ TIME
shortTermTrim = STFT
longTermTrim = LTFT
coolantTemperature = ECT | CLT | COOLANT TMP
oilTemperature = EOT | OIL TMP | T_OIL
wastegateDuty = WGDC | WG DUTY
rollerSpeed = ROLLER SPD | V_ROLLER
power = WHL PWR | P_WHEEL
torque = WHL TRQ | M_WHEEL
ambientTemperature = AMB TMP | T_AMB
ambientPressure = BARO | AMB PRS | P_AMB
relativeHumidity = RH | REL HUM
inletTemperature = INLET TMP | T_INLET
compressorOutTemperature = CMP OUT TMP | T_COMP_OUT
coolerOutTemperature = IC OUT TMP | T_COOLER_OUT | CAC OUT TMP
inletPressure = INLET PRS | P_INLET
pressureDrop/filter = FLT DP | DP_FILTER
pressureDrop/duct = DUCT DP | DP_DUCT
pressureDrop/cooler = IC DP | DP_COOLER
compressorSpeed = TURBO SPD | N_TURBO
coolantInTemperature = IC WTR IN TMP | T_COOLANT_IC_IN
coolantOutTemperature = IC WTR OUT TMP | T_COOLANT_IC_OUT
exhaustTemperature = EGT | EXH TMP
none/oilPressure = OIL PRS
none/target = BOOST TGT | LAM TGT
none/tyre = TYRE TMP FL
none/brake = BRK PRS
none/cam = CAM ANG IN
none/battery = VBATT
none/fuelPressure = FUEL PRS
none/steering = STEER ANG
none/marker = MARK
none/load = LOAD
none/g = G LAT
none/gearbox = GBX TMP`,
  ),
  habit(
    'german',
    false,
    `time = Zeit | Messzeit | Zeitstempel
engineSpeed = Motordrehzahl | Drehzahl | Drehzahl Motor | Kurbelwellendrehzahl
vehicleSpeed = Fahrzeuggeschwindigkeit | Geschwindigkeit Fahrzeug
throttle = Drosselklappenstellung | Drosselklappenwinkel | Drosselklappe | Öffnung Drosselklappe
pedal = Fahrpedalstellung | Gaspedal | Pedalwert
manifoldPressure = Saugrohrdruck absolut | Saugrohrdruck | Absolutdruck Saugrohr
boostPressure = Ladedruck | Überdruck Ladeluft | Ladedruck relativ
intakeAirTemperature = Ansauglufttemperatur | Ladelufttemperatur | Temperatur Saugrohr
airMassFlow = Luftmasse | Luftmassenstrom | Luftmassenmesser
lambda = Lambda | Lambdawert | Lambda Istwert
ignitionAdvance = Zündwinkel | Zündung | Zündzeitpunkt
knockRetard = Klopfrücknahme | Zündwinkelrücknahme Klopfen | Klopfregelung Rücknahme
injectorTime = Einspritzzeit | Einspritzdauer
shortTermTrim = Kurzzeit-Gemischkorrektur | Kurzzeittrimm
longTermTrim = Langzeit-Gemischkorrektur | Langzeittrimm
coolantTemperature = Kühlmitteltemperatur | Wassertemperatur | Kühlwassertemperatur
oilTemperature = Öltemperatur | Motoröltemperatur | Temperatur Öl
wastegateDuty = Wastegate-Tastverhältnis | Tastverhältnis Ladedruckregelventil
rollerSpeed = Rollengeschwindigkeit | Geschwindigkeit Rolle
power = Radleistung | Leistung | Motorleistung | Leistung am Rad
torque = Raddrehmoment | Drehmoment | Moment am Rad
ambientTemperature = Umgebungstemperatur | Raumtemperatur | Hallentemperatur
ambientPressure = Luftdruck | Umgebungsdruck
relativeHumidity = Luftfeuchte | Relative Luftfeuchtigkeit | Feuchte
inletTemperature = Verdichtereintrittstemperatur | Temperatur vor Verdichter | Temperatur Luftfilterkasten
compressorOutTemperature = Verdichteraustrittstemperatur | Temperatur nach Verdichter | Temperatur vor Ladeluftkühler
coolerOutTemperature = Ladeluftkühleraustrittstemperatur | Temperatur nach Ladeluftkühler
inletPressure = Verdichtereintrittsdruck | Druck vor Verdichter
pressureDrop/filter = Druckabfall Filter | Druckdifferenz Luftfilter | Differenzdruck Filter | Druckverlust Filter
pressureDrop/duct = Druckabfall Schlauch | Differenzdruck Ansaugrohr
pressureDrop/cooler = Druckabfall Ladeluftkühler | Druckverlust Kühler
compressorSpeed = Turboladerdrehzahl | Verdichterdrehzahl | Laderdrehzahl
coolantInTemperature = Kühlmittel Eintritt Ladeluftkühler Temperatur | Wassertemperatur Ladeluftkühler Vorlauf
coolantOutTemperature = Kühlmittel Austritt Ladeluftkühler Temperatur | Wassertemperatur Ladeluftkühler Rücklauf
exhaustTemperature = Abgastemperatur
none/oilPressure = Öldruck | Motoröldruck
none/target = Ladedruck Soll | Sollwert Lambda
none/tyre = Reifentemperatur VL
none/brake = Bremsdruck
none/cam = Nockenwellenwinkel Einlass
none/battery = Batteriespannung
none/fuelPressure = Kraftstoffdruck
none/steering = Lenkwinkel
none/marker = Marke
none/load = Motorlast
none/g = Querbeschleunigung
none/gearbox = Getriebeöltemperatur`,
  ),
  habit(
    'french',
    false,
    `time = Temps | Heure | Temps écoulé
engineSpeed = Régime moteur | Régime | Vitesse moteur
vehicleSpeed = Vitesse véhicule | Vitesse du véhicule
throttle = Position papillon | Ouverture papillon | Angle papillon
pedal = Position pédale | Pédale d'accélérateur
manifoldPressure = Pression collecteur absolue | Pression tubulure d'admission | Pression collecteur d'admission
boostPressure = Pression de suralimentation | Suralimentation
intakeAirTemperature = Température d'admission | Température air admission | Température collecteur
airMassFlow = Débit d'air | Débit massique d'air | Masse d'air
lambda = Lambda | Lambda mesuré
ignitionAdvance = Avance à l'allumage | Avance | Angle d'allumage
knockRetard = Retrait cliquetis | Retard d'allumage cliquetis
injectorTime = Temps d'injection | Durée d'injection
shortTermTrim = Correction court terme | Correction richesse court terme
longTermTrim = Correction long terme | Correction richesse long terme
coolantTemperature = Température d'eau | Température liquide de refroidissement | Température eau moteur
oilTemperature = Température d'huile | Température huile moteur
wastegateDuty = Rapport cyclique wastegate | Wastegate
rollerSpeed = Vitesse rouleau | Vitesse des rouleaux
power = Puissance roue | Puissance | Puissance aux roues
torque = Couple roue | Couple | Couple moteur
ambientTemperature = Température ambiante | Température cellule
ambientPressure = Pression atmosphérique | Pression barométrique
relativeHumidity = Humidité relative | Humidité
inletTemperature = Température entrée compresseur | Température avant turbo
compressorOutTemperature = Température sortie compresseur | Température après turbo
coolerOutTemperature = Température sortie échangeur | Température après échangeur
inletPressure = Pression entrée compresseur | Pression avant turbo
pressureDrop/filter = Perte de charge filtre | Chute de pression filtre | Pression différentielle filtre
pressureDrop/duct = Perte de charge conduit | Chute de pression durite
pressureDrop/cooler = Perte de charge échangeur | Chute de pression échangeur
compressorSpeed = Régime turbo | Vitesse turbocompresseur
coolantInTemperature = Température eau entrée échangeur
coolantOutTemperature = Température eau sortie échangeur
exhaustTemperature = Température échappement | Température des gaz d'échappement
none/oilPressure = Pression d'huile
none/target = Consigne suralimentation | Lambda consigne
none/tyre = Température pneu avant gauche
none/brake = Pression de frein
none/cam = Angle arbre à cames
none/battery = Tension batterie
none/fuelPressure = Pression carburant
none/steering = Angle volant
none/marker = Repère
none/load = Charge moteur
none/g = Accélération latérale
none/gearbox = Température huile boîte`,
  ),
  habit(
    'spanish',
    false,
    `time = Tiempo | Hora
engineSpeed = Régimen motor | Revoluciones | Velocidad del motor | Giro motor
vehicleSpeed = Velocidad vehículo | Velocidad del coche
throttle = Posición mariposa | Apertura mariposa
pedal = Posición pedal acelerador | Pedal
manifoldPressure = Presión colector absoluta | Presión colector admisión
boostPressure = Presión de sobrealimentación | Sobrealimentación | Presión turbo
intakeAirTemperature = Temperatura aire admisión | Temperatura de admisión
airMassFlow = Caudal de aire | Flujo masa de aire | Masa de aire
lambda = Lambda | Lambda medida
ignitionAdvance = Avance encendido | Avance | Ángulo de encendido
knockRetard = Retardo por picado | Retraso encendido detonación
injectorTime = Tiempo inyección | Tiempo de inyector
shortTermTrim = Ajuste corto plazo | Corrección combustible corto plazo
longTermTrim = Ajuste largo plazo | Corrección combustible largo plazo
coolantTemperature = Temperatura refrigerante | Temperatura agua
oilTemperature = Temperatura aceite | Temperatura del aceite motor
wastegateDuty = Ciclo wastegate | Wastegate
rollerSpeed = Velocidad rodillo | Velocidad de rodillos
power = Potencia rueda | Potencia | Potencia a la rueda
torque = Par rueda | Par motor | Par
ambientTemperature = Temperatura ambiente | Temperatura sala
ambientPressure = Presión barométrica | Presión atmosférica
relativeHumidity = Humedad relativa | Humedad
inletTemperature = Temperatura entrada compresor | Temperatura antes del turbo
compressorOutTemperature = Temperatura salida compresor | Temperatura después del turbo
coolerOutTemperature = Temperatura salida intercooler | Temperatura salida intercambiador
inletPressure = Presión entrada compresor | Presión antes del turbo
pressureDrop/filter = Caída de presión filtro | Presión diferencial filtro | Pérdida de carga filtro
pressureDrop/duct = Caída de presión conducto | Caída de presión manguera
pressureDrop/cooler = Caída de presión intercooler | Caída presión intercambiador
compressorSpeed = Velocidad turbo | Régimen turbocompresor
coolantInTemperature = Temperatura agua entrada intercooler
coolantOutTemperature = Temperatura agua salida intercooler
exhaustTemperature = Temperatura escape | Temperatura gases de escape
none/oilPressure = Presión aceite
none/target = Lambda objetivo | Presión turbo objetivo
none/tyre = Temperatura neumático
none/brake = Presión freno
none/cam = Ángulo árbol de levas
none/battery = Tensión batería
none/fuelPressure = Presión combustible
none/steering = Ángulo volante
none/marker = Marcador
none/load = Carga motor
none/g = Aceleración lateral
none/gearbox = Temperatura aceite cambio`,
  ),
  habit(
    'italian',
    false,
    `time = Tempo | Ora
engineSpeed = Giri motore | Regime motore | Regime
vehicleSpeed = Velocità veicolo | Velocità vettura
throttle = Posizione farfalla | Apertura farfalla | Farfalla
pedal = Posizione pedale | Pedale acceleratore
manifoldPressure = Pressione collettore assoluta | Pressione collettore aspirazione
boostPressure = Pressione di sovralimentazione | Sovralimentazione | Pressione turbo
intakeAirTemperature = Temperatura aria aspirata | Temperatura aria aspirazione
airMassFlow = Portata aria | Massa aria | Portata massica aria
lambda = Lambda | Lambda misurata
ignitionAdvance = Anticipo accensione | Anticipo
knockRetard = Ritardo detonazione | Riduzione anticipo detonazione
injectorTime = Tempo iniezione | Durata iniezione
shortTermTrim = Correzione breve termine
longTermTrim = Correzione lungo termine
coolantTemperature = Temperatura acqua | Temperatura liquido refrigerante
oilTemperature = Temperatura olio | Temperatura olio motore
wastegateDuty = Duty wastegate | Wastegate
rollerSpeed = Velocità rulli | Velocità rullo
power = Potenza ruota | Potenza | Potenza alla ruota
torque = Coppia ruota | Coppia | Coppia motore
ambientTemperature = Temperatura ambiente
ambientPressure = Pressione atmosferica | Pressione barometrica
relativeHumidity = Umidità relativa | Umidità
inletTemperature = Temperatura ingresso compressore | Temperatura prima del turbo
compressorOutTemperature = Temperatura uscita compressore | Temperatura dopo il turbo
coolerOutTemperature = Temperatura uscita intercooler | Temperatura uscita scambiatore
inletPressure = Pressione ingresso compressore
pressureDrop/filter = Caduta di pressione filtro | Perdita di carico filtro | Pressione differenziale filtro
pressureDrop/duct = Caduta di pressione condotto
pressureDrop/cooler = Caduta di pressione intercooler | Caduta pressione scambiatore
compressorSpeed = Giri turbo | Velocità turbina
coolantInTemperature = Temperatura acqua ingresso intercooler
coolantOutTemperature = Temperatura acqua uscita intercooler
exhaustTemperature = Temperatura gas di scarico | Temperatura scarico
none/oilPressure = Pressione olio
none/target = Lambda obiettivo
none/tyre = Temperatura gomma
none/brake = Pressione freno
none/cam = Angolo albero a camme
none/battery = Tensione batteria
none/fuelPressure = Pressione benzina
none/steering = Angolo sterzo
none/marker = Marcatore
none/load = Carico motore
none/g = Accelerazione laterale
none/gearbox = Temperatura olio cambio`,
  ),
  habit(
    'workshop',
    false,
    `time = Secs | Run time | Clock
engineSpeed = Motor RPM | Crank rpm | Eng. revs | Tacho
vehicleSpeed = Car speed | Speedo
throttle = Thr. opening | Butterfly
pedal = Gas pedal | Accel pos.
manifoldPressure = Man. abs. press. | Plenum press
boostPressure = Boost (rel.) | Turbo boost
intakeAirTemperature = Man. air temp. | Air intake temp | Induction temp
airMassFlow = Airflow meter | Air mass
lambda = O2 lambda | Mixture lambda
ignitionAdvance = Spark angle | Adv. | Timing
knockRetard = Knock pull | Det. retard
injectorTime = Inj. on-time | Pulse width
shortTermTrim = ST fuel trim | Short FT
longTermTrim = LT fuel trim | Long FT
coolantTemperature = Water | H2O temp | Cool. temp
oilTemperature = Sump oil temp | Oil T
wastegateDuty = Boost control duty | W/G duty
rollerSpeed = Rollers | Dyno speed
power = Whl. power | Power (wheels)
torque = Whl. torque | Torque (wheels)
ambientTemperature = Shop air temp | Outside temp
ambientPressure = Barometer | Air pressure
relativeHumidity = Hum. | Rel. hum.
inletTemperature = Turbo in temp | Snorkel temp
compressorOutTemperature = Turbo out temp | Comp. discharge temp
coolerOutTemperature = After-cooler temp | FMIC out temp
inletPressure = Turbo inlet press. | Intake depression
pressureDrop/filter = ΔP filter | Filter restr.
pressureDrop/duct = ΔP pipe
pressureDrop/cooler = ΔP intercooler | Cooler Δp
compressorSpeed = Shaft speed turbo | Turbo revs
coolantInTemperature = Water into cooler temp
coolantOutTemperature = Water from cooler temp
exhaustTemperature = Exh. temp | Exhaust T
none/oilPressure = Oil PSI
none/target = Boost aim | AFR goal
none/tyre = Tire temp
none/brake = Brake psi
none/cam = VVT angle
none/battery = Volts
none/fuelPressure = Rail psi
none/steering = Steer
none/marker = Flag
none/load = Load calc
none/g = G-force
none/gearbox = Trans temp`,
  ),
  habit(
    'german-short',
    false,
    `time = t | Zeit ab Start
engineSpeed = n Motor | n_Mot | Drehz.
vehicleSpeed = v Fzg | v_Fahrzeug
throttle = DK-Winkel | DK Stellung | Drosselkl.
pedal = FP-Wert | Pedal
manifoldPressure = p Saugrohr | p_saug abs
boostPressure = p Lade rel. | LD
intakeAirTemperature = T Ansaug | T_Ansaugluft | T Saugrohr
airMassFlow = m Luft | LMM | Luftmassendurchsatz
lambda = Lam | λ
ignitionAdvance = ZW | Zündw.
knockRetard = Klopf-Rückn. | KR
injectorTime = ti | t Einspritz
shortTermTrim = Kurzzeitadaption
longTermTrim = Langzeitadaption
coolantTemperature = T Wasser | T_Kühlm.
oilTemperature = T Öl | T_oel
wastegateDuty = TV Ladedruck | WG-Ansteuerung
rollerSpeed = v Rolle
power = P Rad | P_Rad
torque = M Rad | M_Rad
ambientTemperature = T Umgebung | T_Raum
ambientPressure = p Umgebung | p_Luft Raum
relativeHumidity = rel. Feuchte | phi Luft
inletTemperature = T vor Lader | T1 vor Verdichter
compressorOutTemperature = T nach Lader | T2 nach Verdichter
coolerOutTemperature = T nach LLK | T_nach_Kühler
inletPressure = p vor Lader
pressureDrop/filter = dp Filter | Δp Luftfilter
pressureDrop/duct = dp Rohr
pressureDrop/cooler = dp LLK
compressorSpeed = n Lader | n_ATL
coolantInTemperature = T Wasser vor LLK
coolantOutTemperature = T Wasser nach LLK
exhaustTemperature = T Abgas
none/oilPressure = p Öl
none/target = Ladedruck-Soll
none/tyre = T Reifen VL
none/brake = p Bremse
none/cam = NW-Winkel
none/battery = U Batt
none/fuelPressure = p Kraftstoff
none/steering = Lenkw.
none/marker = Trigger
none/load = Last
none/g = a quer
none/gearbox = T Getriebe`,
  ),
  habit(
    'notebook',
    true,
    `time = Clock time | Stamp
engineSpeed = Eng revs/min | Rev counter | Motor speed
vehicleSpeed = Speed over ground | Veh. velocity
throttle = Throttle blade | Thr plate pos.
pedal = Driver pedal | Foot pedal
manifoldPressure = Pressure in plenum abs | Man. pressure (abs)
boostPressure = Overpressure manifold | Boost above ambient
intakeAirTemperature = Air temp in plenum | Charge temp
airMassFlow = Air consumption mass | Mass of air
lambda = Lambda probe | Lambda front sensor
ignitionAdvance = Spark adv. angle | Ignition point
knockRetard = Knock control retard | Retard due to knock
injectorTime = Inj open time | Injector on time
shortTermTrim = Short trim bank 1 | STFT B1
longTermTrim = Long trim bank 1 | LTFT B1
coolantTemperature = Cooling water temp | Engine water temp
oilTemperature = Engine oil T | Temp oil
wastegateDuty = Wastegate PWM | WG solenoid duty
rollerSpeed = Surface speed roller | Roll speed
power = P wheels | Measured power
torque = Torque engine calc. | Moment at wheel
ambientTemperature = Dyno room temp | Temp ambient air
ambientPressure = Room pressure | Station pressure
relativeHumidity = Humidity of room air | RH room
inletTemperature = Temp airbox out | T before turbo
compressorOutTemperature = T turbo outlet | Hot pipe temp
coolerOutTemperature = T intercooler outlet | Cold side charge temp
inletPressure = P before turbo | Press. airbox
pressureDrop/filter = Air filter delta p | dP across filter
pressureDrop/duct = Hose pressure loss | dP duct
pressureDrop/cooler = Delta p charge cooler | Loss of pressure intercooler
compressorSpeed = Turbine shaft rpm | Turbo shaft revs
coolantInTemperature = Water temp cooler inlet | IC water inlet T
coolantOutTemperature = Water temp cooler outlet | IC water outlet T
exhaustTemperature = Exhaust manifold temp | EGT pre turbine
none/oilPressure = Oil gallery pressure
none/target = Wanted boost | Torque demand
none/tyre = Tyre carcass temp
none/brake = Brake disc temp
none/cam = Cam phase in
none/battery = Supply V
none/fuelPressure = Rail pressure
none/steering = Steering wheel
none/marker = Lap trigger
none/load = Load percent
none/g = Long. acc.
none/gearbox = Gbox temp`,
  ),
];
