/** Worked examples: a netlist, expected results (=), and changes that keep memory (>). Values in SI, six significant digits. */
export const WORKED_EXAMPLES: readonly (readonly [id: string, title: string, net: string])[] = [
  [
    'E01',
    'PT-202 membrane feed pressure, healthy loop',
    `
PS-200 supply p=P n=0 ; F-202 fuse a=P b=Q rating=0.063 r=4.2
W-202 pair a1=Q b1=A a2=B b2=C mm2=1.0 iecClass=5 length=350 tempC=40
PT-202 tx2 plus=A minus=B i=0.0172 vLift=10.5 ; AI-202 ai in=C com=0
= V(P) 23.9991 ; V(A,B) 19.3737 ; V(B,C) 0.126617 ; V(C) 4.3 ; I(PT-202.plus) 0.0172 ; I(PS-200.p) -0.0172 ; pct(AI-202) 82.5 ; nofind(NOT_REGULATING PT-202)
`,
  ],
  [
    'E02',
    'Same tag, sagging supply, barrier, backlit indicator, thin hot cable: saturates on burn-out',
    `
PS-200 supply p=P n=0 v=21.6 ; BR-202 barrier a=P b=Q r=306
W-202 pair a1=Q b1=A a2=B b2=C mm2=0.5 iecClass=5 length=420 tempC=55
PT-202 tx2 plus=A minus=B i=0.0225 vLift=10.5 ; PI-202 indicator plus=C minus=D backlight=true ; AI-202 ai in=D com=0
= I(PT-202.plus) 0.0144043 ; V(A,B) 10.4817 ; V(C,D) 2.57202 ; pct(AI-202) 65.0267 ; find(NOT_REGULATING PT-202)
> PT-202.i=0.0040 => I(PT-202.plus) 0.004 ; V(A,B) 16.7067 ; pct(AI-202) 0 ; nofind(NOT_REGULATING PT-202)
`,
  ],
  [
    'E03',
    'LT-301 brine level wired backwards, three kinds of protection',
    `
PS-300 supply p=P n=0 ; LT-301 tx2 plus=B minus=P i=0.0144 vLift=11 ; AI-301 ai in=B com=0
= I(LT-301.plus) 0 ; V(B) 0 ; find(REVERSED LT-301)
> LT-301.reverse=clamp => I(LT-301.plus) -0.0928973 ; V(P,B) 0.771024 ; V(B) 23.2243 ; find(OVER_CURRENT AI-301) ; find(REVERSED LT-301)
> LT-301.reverse=bridge => I(LT-301.plus) -0.0144 ; V(B) 3.6 ; pct(AI-301) 65 ; nofind(REVERSED LT-301)
`,
  ],
  [
    'E04',
    'FT-205 permeate flow, 4-wire active, two receivers in series, then too much load',
    `
FT-205 tx4active plus=A minus=0 i=0.0198 vCompliance=14 ; W-205 wire a=A b=B awg=18 length=260 tempC=30
AI-205 ai in=B com=D ; FR-205 receiver in=D com=0 r=100 rNominal=100
= V(A) 7.04208 ; V(B,D) 4.95 ; I(FT-205.plus) -0.0198 ; pct(AI-205) 98.75 ; pct(FR-205) 98.75
> FR-205.r=620 FR-205.rNominal=620 => V(A) 14.01 ; I(FT-205.plus) -0.0159993 ; pct(AI-205) 74.9959 ; find(NOT_REGULATING FT-205)
`,
  ],
  [
    'E05',
    'AT-208 conductivity, isolated passive output without loop power, then jumpered to its own 24 V',
    `
AT-208 tx4passive plus=A minus=B i=0.0112 auxP=X auxN=0 ; JP contact a=X b=A closed=false ; AI-208 ai in=B com=0
= I(AT-208.plus) 0 ; V(X) 24.0004 ; pct(AI-208) -25 ; find(NO_LOOP_CURRENT AT-208) ; find(NO_RETURN_PATH AT-208) ; dead(AT-208) plus
> JP.closed=true => I(AT-208.plus) 0.0112 ; V(A,B) 21.0874 ; pct(AI-208) 45 ; nofind(NO_LOOP_CURRENT AT-208) ; nofind(DOUBLE_POWERED AT-208)
`,
  ],
  [
    'E06',
    'LT-310 crystalliser level, 3-wire, long three-core, then a sagging supply',
    `
PS-300 supply p=P n=0 ; W1 wire a=P b=VP mm2=0.75 iecClass=5 length=480 tempC=35 ; W2 wire a=O b=C mm2=0.75 iecClass=5 length=480 tempC=35
W3 wire a=VN b=0 mm2=0.75 iecClass=5 length=480 tempC=35
LT-310 tx3 vp=VP out=O vn=VN i=0.0176 iq=0.055 vMin=17 ; AI-310 ai in=C com=0
= V(VP,VN) 22.31 ; V(VN) 0.726863 ; I(LT-310.vp) 0.0726 ; I(LT-310.out) -0.0176 ; V(C) 4.4 ; pct(AI-310) 85 ; state(LT-310) powered
> PS-300.v=18.6 => V(VP,VN) 17.1435 ; state(LT-310) unpowered ; pct(AI-310) -25 ; find(SUPPLY_RANGE LT-310)
`,
  ],
  [
    'E07',
    'Double powering: active FT-206 on a card that feeds the loop, opposing then aiding',
    `
AI-206 ai in=N com=0 sup=S ; FT-206 tx4active plus=S minus=N i=0.0133 vCompliance=18
= V(S) 24.0004 ; I(FT-206.plus) 0 ; pct(AI-206) -25 ; find(DOUBLE_POWERED FT-206) ; find(NO_LOOP_CURRENT FT-206)
> FT-206.plus=N FT-206.minus=S => V(N) 7.5 ; I(FT-206.plus) -0.03 ; shown(AI-206) 0.03 ; find(DOUBLE_POWERED FT-206) ; find(SUPPLY_LIMIT AI-206)
> FT-206.clamp=false => V(N,S) -20.409 ; I(FT-206.plus) -0.0133 ; pct(AI-206) 58.125 ; find(DOUBLE_POWERED FT-206)
`,
  ],
  [
    'E08',
    'Brine in the junction box: 4.7 kohm across the field pair of LT-301, and across an active output',
    `
PS-300 supply p=P n=0 ; LT-301 tx2 plus=P minus=B i=0.0088 vLift=11 ; RL1 resistor a=P b=B r=4700 ; AI-301 ai in=B com=0
FT-205 tx4active plus=F minus=0 i=0.0088 ; RL2 resistor a=F b=0 r=4700 ; AI-205 ai in=F com=0
= I(LT-301.plus) 0.0088 ; I(RL1.a) 0.00440391 ; pct(AI-301) 57.5244 ; I(RL2.a) 0.000444444 ; pct(AI-205) 27.2222
`,
  ],
  [
    'E09',
    'Second earth on the return core of PT-105 (0.8 V between earths, 3 ohm path)',
    `
PS-100 supply p=P n=0 ; PT-105 tx2 plus=P minus=B i=0.0128 ; W wire a=B b=C mm2=1.5 iecClass=5 length=150 ; AI-105 ai in=C com=0
RE resistor a=B b=G r=3 ; VE vsource p=G n=0 v=0.8
= V(B) 0.828536 ; I(PT-105.plus) 0.0128 ; I(RE.a) 0.00951209 ; V(C) 0.821977 ; pct(AI-105) -4.45058
`,
  ],
  [
    'E10',
    'Meter left in the mA jack: put across a 24 V supply, then the 10 A jack, then set to V correctly',
    `
PS-300 supply p=P n=0 iLimit=5 ; RL resistor a=P b=0 r=480 ; M dmm red=P black=0 jack=mA dial=V
= state(M) blown ; V(P) 23.9975 ; read(M) null ; find(FUSE_BLOWN M) ; find(METER_JACK M)
> M.jack=10A => state(M) ok ; V(P) 0.149991
`,
  ],
  [
    'E10b',
    'Meter left in the mA jack: put across a 24 V supply, then the 10 A jack, then set to V correctly',
    `
PS-300 supply p=P n=0 iLimit=5 ; RL resistor a=P b=0 r=480 ; M dmm red=P black=0 jack=10A dial=10A
= state(M) ok ; V(P) 0.149991 ; read(M) 4.99969 ; find(SUPPLY_LIMIT PS-300)
> M.jack=V M.dial=V => V(P) 23.9975 ; read(M) 23.9975 ; I(PS-300.p) -0.0499972
`,
  ],
  [
    'E11',
    'Reading mA at the test terminals of LT-301 without opening the loop: low burden, then high burden',
    `
PS-300 supply p=P n=0 ; LT-301 tx2 plus=P minus=B test=T i=0.0163 vLift=11 ; M dmm red=T black=B jack=mA dial=mA rmA=6.5 ; AI-301 ai in=B com=0
= read(M) 0.0163 ; V(T,B) 0.10595 ; I(LT-301.plus) 0.0163 ; pct(AI-301) 76.875
> M.rmA=68 => read(M) 0.00955491 ; V(T,B) 0.649734 ; pct(AI-301) 76.875
`,
  ],
  [
    'E12',
    'ZS-307 pallet present: NPN NO on a sinking type 3 card, dead; then with a 2.2 kohm pull-up (inverts)',
    `
PS-300 supply p=P n=0 ; ZS-307 sensor3 bn=P bu=0 bk=S out=npn fn=no target=false ; DI-307 di in=S com=0 mode=sink iecType=3
RP contact a=P b=R closed=false ; RPU resistor a=R b=S r=2200
= vin(DI-307) 0 ; bit(DI-307) 0
> ZS-307.target=true => vin(DI-307) 0 ; bit(DI-307) 0
> RP.closed=true ZS-307.target=false => vin(DI-307) 17.3772 ; iin(DI-307) 0.003 ; bit(DI-307) 1
> ZS-307.target=true => vin(DI-307) 1.50976 ; I(ZS-307.bk) 0.00976464 ; P(RPU) 0.229883 ; bit(DI-307) 0
`,
  ],
  [
    'E13',
    '2-wire sensor ZS-305 leaking 1.3 mA on a type 1 card, cured by a bleeder; then too light a load on type 3',
    `
PS-300 supply p=P n=0 ; ZS-305 sensor2 plus=P minus=S fn=no target=false iLeak=0.0013 iMin=0.005 ; DI-305 di in=S com=0 iecType=1
SW contact a=S b=R closed=false ; RB resistor a=R b=0 r=3300
= vin(DI-305) 6.11 ; iin(DI-305) 0.0013 ; bit(DI-305) undefined ; find(INPUT_UNDEFINED DI-305)
> SW.closed=true => vin(DI-305) 2.5204 ; bit(DI-305) 0
> ZS-305.target=true => vin(DI-305) 19.8969 ; I(ZS-305.plus) 0.0102626 ; bit(DI-305) 1 ; nofind(MIN_LOAD ZS-305)
> SW.closed=false DI-305.iecType=3 => vin(DI-305) 19.9698 ; I(ZS-305.plus) 0.003 ; bit(DI-305) 1 ; find(MIN_LOAD ZS-305)
`,
  ],
  [
    'E14',
    'LSH-104 sump high float (opens on high level) with interposing relay K-104, NO contact to a sourcing card',
    `
PS-100 supply p=P n=0 v=24 ; LSH-104 contact a=P b=F closed=true ; W pair a1=F b1=KA a2=KB b2=0 mm2=0.5 iecClass=2 length=300
K-104 relay a1=KA a2=KB rCoil=1100 vNom=24 com=0 no=S ; DI-104 di in=S com=P mode=source iecType=1
= V(KA,KB) 23.5355 ; state(K-104) on ; vin(DI-104) 23.9984 ; bit(DI-104) 1
> PS-100.v=17.0 => V(KA,KB) 16.6709 ; state(K-104) on
> LSH-104.closed=false => state(K-104) off ; bit(DI-104) 0
> LSH-104.closed=true => V(KA,KB) 16.6711 ; state(K-104) off ; bit(DI-104) 0
> PS-100.v=20.4 => V(KA,KB) 20.0051 ; state(K-104) on ; bit(DI-104) 1
`,
  ],
  [
    'E15',
    'ZS-309 NAMUR sensor: free, target, wire break, short',
    `
A-309 namurAmp plus=A minus=0 ; LK contact a=A b=X closed=true ; ZS-309 namur plus=X minus=0 ; SH contact a=X b=0 closed=false
= I(ZS-309.plus) 0.00372719 ; V(A) 4.47281 ; amp(A-309) high
> ZS-309.target=true => I(ZS-309.plus) 0.000630767 ; amp(A-309) low
> LK.closed=false => amp(A-309) wire_break
> LK.closed=true SH.closed=true => I(A-309.plus) -0.00819918 ; amp(A-309) short_circuit
`,
  ],
  [
    'E16',
    'Contactor straight on a 200 mA PNP output; relay instead; flyback diode fitted backwards',
    `
PS-300 supply p=P n=0 ; ZS-306 sensor3 bn=P bu=0 bk=S out=pnp target=true ; M-306 relay a1=S a2=0 rCoil=52 vNom=24 ; DF contact a=S b=D ; VD diode a=D k=0
= I(ZS-306.bk) -0.3 ; V(S) 15.6 ; state(M-306) off ; find(OUTPUT_OVERLOAD ZS-306)
> M-306.rCoil=1440 => I(ZS-306.bk) -0.0156133 ; V(S) 22.4831 ; state(M-306) on ; nofind(OUTPUT_OVERLOAD ZS-306)
> DF.closed=true => I(ZS-306.bk) -0.3 ; V(S) 0.840119 ; state(M-306) off ; find(OUTPUT_OVERLOAD ZS-306)
`,
  ],
  [
    'E17',
    'PT-202 through a repeater that feeds the field loop; output side overloaded',
    `
IS-202 isolator fp=A fn=C op=O on=0 ; RT resistor a=C b=0 r=1e6
PT-202 tx2 plus=A minus=B i=0.0155 vLift=10.5 ; W wire a=B b=C mm2=0.5 length=600 tempC=20 ; AI-202 ai in=O com=0
= V(A,B) 16.9043 ; I(PT-202.plus) 0.0155 ; I(IS-202.op) -0.0155 ; pct(AI-202) 71.875
> AI-202.r=900 AI-202.rNominal=900 => I(PT-202.plus) 0.0155 ; I(IS-202.op) -0.0133415 ; pct(AI-202) 58.3846
`,
  ],
  [
    'E18',
    'ZS-306 bagger cylinder end of stroke: reed with LED (2.6 V) on type 1 and type 3',
    `
PS-300 supply p=P n=0 ; ZS-306 reed a=P b=S closed=true vDrop=2.6 r=20 ; DI-306 di in=S com=0 iecType=1
= vin(DI-306) 21.3091 ; iin(DI-306) 0.00453385 ; bit(DI-306) 1
> DI-306.iecType=3 PS-300.v=14.2 => vin(DI-306) 11.5398 ; iin(DI-306) 0.003 ; bit(DI-306) 1
> DI-306.iecType=1 => vin(DI-306) 11.5507 ; bit(DI-306) undefined ; find(INPUT_UNDEFINED DI-306)
`,
  ],
  [
    'E19',
    'Three transmitters on a supply limited to 50 mA: the weakest one is starved',
    `
PS-300 supply p=P n=0 v=24 iLimit=0.050 ; TA tx2 plus=P minus=A i=0.020 vLift=12 ; RA receiver in=A com=0 r=250
TB tx2 plus=P minus=B i=0.018 vLift=10.5 ; RB receiver in=B com=0 r=250 ; TC tx2 plus=P minus=C i=0.020 vLift=11 ; RC receiver in=C com=0 r=450 rNominal=450
= V(P) 16.7775 ; I(TA.plus) 0.0191208 ; I(TB.plus) 0.018 ; I(TC.plus) 0.0128792 ; find(SUPPLY_LIMIT PS-300) ; find(NOT_REGULATING TC)
`,
  ],
]
