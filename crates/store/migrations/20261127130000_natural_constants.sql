-- A house of inches has its constants in inches: what was carried as 12.5 and 25 mm is 1/2 and 1 in. May run again.
UPDATE house SET measuring = JSON_SET(measuring, '$.finger_mm', 12.7)
  WHERE JSON_VALUE(style, '$.unit') = 'inch' AND JSON_VALUE(measuring, '$.finger_mm') = 12.5;
UPDATE house SET measuring = JSON_SET(measuring, '$.cup_over_mm', 25.4)
  WHERE JSON_VALUE(style, '$.unit') = 'inch' AND JSON_VALUE(measuring, '$.cup_over_mm') = 25;
