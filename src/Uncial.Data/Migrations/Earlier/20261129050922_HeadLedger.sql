ALTER TABLE confirmations ADD dial_took_mm numeric;
ALTER TABLE confirmations ADD metal_gone_mm numeric;
ALTER TABLE confirmations ADD slope double precision;
