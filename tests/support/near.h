#pragma once
#include <QtTest>
#include <cmath>

/// Fails with both numbers in the message when a value is not within a tolerance of what was expected.
#define VERIFY_NEAR(actual, expected, tolerance)                                                             \
    do {                                                                                                     \
        const double a_ = (actual), e_ = (expected);                                                         \
        QVERIFY2(                                                                                            \
            std::abs(a_ - e_) <= (tolerance),                                                                \
            qPrintable(                                                                                      \
                QString("%1 is %2, expected %3 within %4").arg(#actual).arg(a_).arg(e_).arg(tolerance)));    \
    } while (false)
