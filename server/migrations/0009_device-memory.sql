-- Stand-ins from before they remembered what was keyed in, counted, kept alarms and fetched readings.
UPDATE "stand_ins" SET "state" =
  '{"own": [], "place_mm": 0, "started": true, "sourced_mA": null, "totals": {"at_s": 0, "counted": [0, 0]}, "alarms": [], "outages": [], "download": null}'::jsonb
  || jsonb_set(
       jsonb_set(
         jsonb_set("state", '{applied,keyed}', coalesce("state" #> '{applied,keyed}', '{}'::jsonb)),
         '{working,keyed}', coalesce("state" #> '{working,keyed}', '{}'::jsonb)),
       '{stored,settings,keyed}', coalesce("state" #> '{stored,settings,keyed}', '{}'::jsonb));
