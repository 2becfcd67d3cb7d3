/* Plain loops in C, one pass each: what a chain or a filter costs where nothing stands in the way. */
#include <math.h>
#include <string.h>
#define LESS(a, b) ((a) < (b) ? (a) : (b))
#define MORE(a, b) ((a) > (b) ? (a) : (b))

static double median5(double a, double b, double c, double d, double e)
{
    double low = MORE(LESS(a, b), LESS(c, d)), high = LESS(MORE(a, b), MORE(c, d));
    return MORE(LESS(low, high), LESS(MORE(low, high), e));
}

void copy(const double *t, const double *x, double *y, long n) { memcpy(y, x, n * sizeof *y); }

/* Converter, half of a divider, thermistor, line, mean 16, median 5, exponential, one decimal. */
void chain(const double *t, const double *x, double *y, long n)
{
    double window[16] = {0}, last[5] = {0}, sum = 0, shown = 0;
    for (long i = 0; i < n; i++) {
        double volts = x[i] * (3.3 / 65536), ohms = 1e4 * volts / (3.3 - volts), ln = log(ohms);
        double celsius = 1 / (0.001129148 + ln * (0.000234125 + 0.0000000876741 * ln * ln)) - 273.15;
        double corrected = celsius * 1.01 - 0.2;
        sum += corrected - window[i & 15];
        window[i & 15] = corrected;
        for (int k = 0; k < 4; k++) last[k] = last[k + 1];
        last[4] = sum / (i < 15 ? i + 1 : 16);
        double middle = i < 4 ? last[4] : median5(last[0], last[1], last[2], last[3], last[4]);
        shown = i ? shown + 0.1 * (middle - shown) : middle;
        y[i] = rint(shown * 10);
    }
}

void mean(const double *t, const double *x, double *y, long n)
{
    double sum = 0;
    for (long i = 0; i < n; i++) {
        sum += x[i] - (i < 16 ? 0 : x[i - 16]);
        y[i] = sum / (i < 15 ? i + 1 : 16);
    }
}

void median(const double *t, const double *x, double *y, long n)
{
    for (long i = 0; i < 4 && i < n; i++) y[i] = x[i];
    for (long i = 4; i < n; i++) y[i] = median5(x[i - 4], x[i - 3], x[i - 2], x[i - 1], x[i]);
}

static long place_of(const double *sorted, long count, double value)
{
    long low = 0, high = count;
    while (low < high) {
        long middle = (low + high) / 2;
        if (sorted[middle] < value) low = middle + 1; else high = middle;
    }
    return low;
}

/* The window kept in order: the oldest goes out, the newest in. */
void median101(const double *t, const double *x, double *y, long n)
{
    double sorted[128];
    long count = 0, place;
    for (long i = 0; i < n; i++) {
        if (count == 101) {
            place = place_of(sorted, count--, x[i - 101]);
            memmove(sorted + place, sorted + place + 1, (count - place) * sizeof *sorted);
        }
        place = place_of(sorted, count, x[i]);
        memmove(sorted + place + 1, sorted + place, (count++ - place) * sizeof *sorted);
        sorted[place] = x[i];
        y[i] = sorted[count / 2];
    }
}

void exponential(const double *t, const double *x, double *y, long n)
{
    double shown = x[0];
    for (long i = 0; i < n; i++) y[i] = shown += 0.1 * (x[i] - shown);
}

void time_constant(const double *t, const double *x, double *y, long n)
{
    double shown = x[0], before = t[0];
    for (long i = 0; i < n; i++) {
        if (t[i] > before) {
            shown += -expm1((before - t[i]) / 0.2) * (x[i] - shown);
            before = t[i];
        }
        y[i] = shown;
    }
}

/* Second order, 5 Hz of 100 Hz. */
void low_pass(const double *t, const double *x, double *y, long n)
{
    const double b = 0.020083365564211, a1 = -1.561018075800718, a2 = 0.641351538057563;
    double s1 = x[0] - b * x[0], s2 = b * x[0] - a2 * x[0];
    for (long i = 0; i < n; i++) {
        double out = b * x[i] + s1;
        s1 = 2 * b * x[i] - a1 * out + s2;
        s2 = b * x[i] - a2 * out;
        y[i] = out;
    }
}

void tracking(const double *t, const double *x, double *y, long n)
{
    double level = x[0], slope = 0, before = t[0];
    for (long i = 0; i < n; i++) {
        double dt = t[i] - before;
        if (dt > 0) {
            level += slope * dt;
            double missed = x[i] - level;
            level += 0.2 * missed;
            slope += 0.02 * missed / dt;
            before = t[i];
        }
        y[i] = level;
    }
}

void deadband(const double *t, const double *x, double *y, long n)
{
    double shown = x[0];
    for (long i = 0; i < n; i++) y[i] = shown = fabs(x[i] - shown) > 5 ? x[i] : shown;
}

void reject_rate(const double *t, const double *x, double *y, long n)
{
    double good = x[0], at = t[0];
    int refused = 0;
    for (long i = 0; i < n; i++) {
        if (refused >= 5 || fabs(x[i] - good) <= 600 * MORE(t[i] - at, 0)) {
            y[i] = good = x[i];
            at = t[i];
            refused = 0;
        } else {
            y[i] = NAN;
            refused++;
        }
    }
}

void reject_range(const double *t, const double *x, double *y, long n)
{
    for (long i = 0; i < n; i++) y[i] = x[i] >= -300 && x[i] <= 300 ? x[i] : NAN;
}

void settling_gate(const double *t, const double *x, double *y, long n)
{
    for (long i = 0; i < n; i++) {
        double least = x[i], most = x[i];
        for (long k = i > 9 ? i - 9 : 0; k < i; k++) {
            least = LESS(least, x[k]);
            most = MORE(most, x[k]);
        }
        y[i] = most - least > 3 ? 1 : 0;
    }
}

void hold(const double *t, const double *x, double *y, long n)
{
    double good = NAN, at = -1e300;
    for (long i = 0; i < n; i++) {
        if (x[i] == x[i]) {
            good = x[i];
            at = t[i];
        }
        y[i] = t[i] - at <= 1 ? good : NAN;
    }
}

void decimate(const double *t, const double *x, double *y, long n)
{
    for (long i = 0; i < n; i += 10) y[i / 10] = x[i];
}

void reject_mark(const double *t, const double *x, double *y, long n) { copy(t, x, y, n); }

void lowest(const double *t, const double *x, double *y, long n)
{
    double least = x[0];
    for (long i = 0; i < n; i++) y[i] = least = LESS(least, x[i]);
}

void highest(const double *t, const double *x, double *y, long n)
{
    double most = x[0];
    for (long i = 0; i < n; i++) y[i] = most = MORE(most, x[i]);
}

/* Over eight, of a circle from -500 to 500. */
void circular_mean(const double *t, const double *x, double *y, long n)
{
    const double turn = 2 * 3.14159265358979323846 / 1000;
    double sines[8] = {0}, cosines[8] = {0}, sine = 0, cosine = 0;
    for (long i = 0; i < n; i++) {
        double s = sin(x[i] * turn), c = cos(x[i] * turn);
        sine += s - sines[i & 7];
        cosine += c - cosines[i & 7];
        sines[i & 7] = s;
        cosines[i & 7] = c;
        y[i] = atan2(sine, cosine) / turn;
    }
}

/* The last ten in order, without two at each end. */
void trimmed_mean(const double *t, const double *x, double *y, long n)
{
    enum { N = 10, CUT = 2 };
    double order[N];
    long have = 0;
    for (long i = 0; i < n; i++) {
        long place = 0;
        if (have == N) {
            while (order[place] != x[i - N]) place++;
            for (; place + 1 < N; place++) order[place] = order[place + 1];
            have--;
        }
        for (place = have; place && order[place - 1] > x[i]; place--) order[place] = order[place - 1];
        order[place] = x[i];
        have++;
        long cut = (have - 1) / 2 < CUT ? (have - 1) / 2 : CUT;
        double total = 0.0;
        for (long k = cut; k < have - cut; k++) total += order[k];
        y[i] = total / (double)(have - 2 * cut);
    }
}
