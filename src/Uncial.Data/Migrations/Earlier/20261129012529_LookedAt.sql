ALTER TABLE confirmations ALTER COLUMN groove_left_mm DROP NOT NULL;
ALTER TABLE confirmations ADD depth_uncertainty_mm numeric;
ALTER TABLE confirmations ADD relief_left_mm numeric;
