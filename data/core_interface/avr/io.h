#pragma once
extern volatile uint8_t PORTB, PORTC, PORTD, DDRB, DDRC, DDRD, PINB, PINC, PIND;
extern volatile uint8_t MCUSR, WDTCSR, ADCSRA, ADCSRB, ADMUX, PRR, SREG, ACSR;
extern volatile uint8_t TCCR1A, TCCR1B, TIMSK1, TIFR1, TCCR2A, TCCR2B, TIMSK2, OCR2A, PCICR, PCIFR, PCMSK0, PCMSK1,
    PCMSK2;
extern volatile uint8_t ADCL, ADCH, EICRA, EIMSK, EIFR, UCSR0A, SMCR, MCUCR;
extern volatile uint16_t TCNT1, OCR1A, OCR1B, ICR1, ADC;
#define PORF 0
#define EXTRF 1
#define BORF 2
#define WDRF 3
#define WDE 3
#define WDCE 4
#define WDIE 6
#define WDIF 7
#define WDP0 0
#define WDP1 1
#define WDP2 2
#define WDP3 5
#define ADEN 7
#define ADSC 6
#define ADIE 3
#define ADPS0 0
#define ADPS1 1
#define ADPS2 2
#define REFS0 6
#define REFS1 7
#define MUX0 0
#define MUX1 1
#define MUX2 2
#define MUX3 3
#define CS10 0
#define CS11 1
#define CS12 2
#define WGM12 3
#define OCIE1A 1
#define TOIE1 0
#define PCIE0 0
#define PCIE1 1
#define PCIE2 2
#define PCIF0 0
#define PCIF1 1
#define PCIF2 2
#define INT0 0
#define INT1 1
#define INT0_vect interrupt_of_pin_2
#define INT1_vect interrupt_of_pin_3
#define PCINT0_vect interrupt_of_pins_0
#define PCINT1_vect interrupt_of_pins_1
#define PCINT2_vect interrupt_of_pins_2
#define TIMER1_COMPA_vect interrupt_of_timer_1
#define TIMER1_OVF_vect interrupt_of_timer_1_end
#define TIMER2_COMPA_vect interrupt_of_timer_2
#define WDT_vect interrupt_of_watchdog
#define ADC_vect interrupt_of_converter
#define bit_is_set(where, b) ((where)&_BV(b))
#define bit_is_clear(where, b) (!((where)&_BV(b)))
#define loop_until_bit_is_set(where, b) while (bit_is_clear(where, b))
#define loop_until_bit_is_clear(where, b) while (bit_is_set(where, b))
