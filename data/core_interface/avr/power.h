#pragma once
void power_all_enable();
void power_all_disable();
void power_adc_enable();
void power_adc_disable();
