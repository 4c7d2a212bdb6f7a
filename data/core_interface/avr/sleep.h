#pragma once
#define SLEEP_MODE_IDLE 0
#define SLEEP_MODE_ADC 1
#define SLEEP_MODE_PWR_DOWN 2
#define SLEEP_MODE_PWR_SAVE 3
#define SLEEP_MODE_STANDBY 6
void set_sleep_mode(uint8_t mode);
void sleep_enable();
void sleep_disable();
void sleep_mode();
void sleep_cpu();
void sleep_bod_disable();
