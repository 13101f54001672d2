// Packed bytes, read back by another library.
#include "file/disk/deflate.h"

#include "support/register.h"

#include <QByteArray>
#include <random>

using namespace glyptos;

class DeflateTest : public QObject {
    Q_OBJECT

    /// zlib's own reading; it wants to know the size.
    static QByteArray unpacked(const Buffer<uint8_t>& packed, size_t size) {
        QByteArray all;
        for (const int shift : {24, 16, 8, 0}) all += char(size >> shift);
        return qUncompress(
            all + QByteArray(reinterpret_cast<const char*>(packed.data()), qsizetype(packed.size())));
    }

  private Q_SLOTS:
    void thereAndBack_data() {
        QTest::addColumn<int>("size");
        QTest::addColumn<int>("values");
        for (const int size : {1, 2, 100, (1 << 20) - 1, 1 << 20, (1 << 20) + 1, 5000000})
            for (const int values : {1, 3, 256}) // all the same; much alike; noise, which cannot be packed
                QTest::addRow("%d bytes of %d values", size, values) << size << values;
    }
    void thereAndBack() {
        QFETCH(int, size);
        QFETCH(int, values);
        std::mt19937 chance(7);
        std::vector<uint8_t> bytes(static_cast<size_t>(size));
        for (uint8_t& b : bytes) b = uint8_t(chance() % unsigned(values));
        const Buffer<uint8_t> packed = deflated(bytes);
        const QByteArray back = unpacked(packed, bytes.size());
        QVERIFY(back == QByteArray(reinterpret_cast<const char*>(bytes.data()), size));
        if (values < 256 && size > 1000) QVERIFY(packed.size() < bytes.size() / 2);
        QVERIFY(packed.size() < bytes.size() + bytes.size() / 1000 + 200);
    }

    void nothingAndDamage() {
        const Buffer<uint8_t> none = deflated({});
        QVERIFY(unpacked(none, 0).isEmpty());
        const std::vector<uint8_t> bytes(3000, 7);
        Buffer<uint8_t> packed = deflated(bytes);
        packed.data()[packed.size() - 1] ^= 1; // its sum is looked at
        QVERIFY(unpacked(packed, bytes.size()).isEmpty());
    }

    void stopped() {
        const std::atomic<bool> cancel = true;
        const std::vector<uint8_t> bytes(8000000, 7);
        QVERIFY(deflated(bytes, &cancel).size() < 100); // nothing was packed
    }
};

GLYPTOS_TEST(DeflateTest)
#include "deflate_test.moc"
