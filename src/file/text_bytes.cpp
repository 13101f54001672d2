#include "file/text_bytes.h"

#include <QByteArrayView>
#include <QString>
#include <QStringDecoder>

namespace glyptos {

std::string textOf(std::span<const uint8_t> bytes) {
    const QByteArrayView view(bytes.data(), qsizetype(bytes.size()));
    const auto marked = QStringDecoder::encodingForData(view);
    QStringDecoder decoder(marked.value_or(QStringDecoder::Utf8), QStringDecoder::Flag::Stateless);
    const QString text = decoder(view);
    return (decoder.hasError() && !marked ? QString::fromLatin1(view) : text).toStdString();
}

} // namespace glyptos
