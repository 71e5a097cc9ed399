DROP TABLE taken;
