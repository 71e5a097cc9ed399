DROP TABLE machine; DROP TABLE layers; DROP TABLE drawings; DROP TABLE jobs;
