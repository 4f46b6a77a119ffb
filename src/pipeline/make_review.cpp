#include "pipeline/make_review.h"
#include <sstream>
#include <tuple>

namespace jl
{
namespace
{

using Models = std::vector<ModelPerformance>;

Error from(Error error, const std::string& source)
{
    if (!source.empty()) error.where = source;
    return error;
}

/// One request on its way to a review.
class ReviewMaker
{
public:
    ReviewMaker(const ShippedData& data, ReviewRequest request) : m_data(data), m_request(std::move(request))
    {
    }

    Result<FinishedReview> make()
    {
        for (const auto step : {&ReviewMaker::readStudent, &ReviewMaker::readSecond,
                                &ReviewMaker::readReference, &ReviewMaker::readTogether, &ReviewMaker::judge})
            if (auto done = (this->*step)(); !done) return done.error();
        return std::move(m_out);
    }

private:
    Result<ClipReading> read(ReviewClip& clip, const Models& models) const
    {
        auto reading = readClip(withRepairs(clip.track, clip.known.repairs), models, clip.profile,
                                m_data.tables, {}, clip.known.hints);
        if (reading) return reading;
        return from(withLikelierForm(reading.error(), m_data, clip.track, m_request.school, m_request.form),
                    clip.source);
    }

    Result<Done> readStudent()
    {
        auto models =
            m_data.models(m_request.form, m_request.school, m_request.side, m_request.student.limits);
        if (!models) return models.error();
        m_models = std::move(*models);
        auto reading = read(m_request.student, m_models);
        if (!reading) return reading.error();
        m_out.student = std::move(*reading);
        m_out.leftOut = std::move(m_request.leftOut);
        std::istringstream lines(repairsPassedOver(m_request.student.track, m_request.student.known.repairs));
        for (std::string line; std::getline(lines, line);)
            m_out.leftOut.push_back(line);
        return Done{};
    }

    /// What the second view adds is left out where it cannot be read: the first one stands by itself.
    Result<Done> readSecond()
    {
        if (!m_request.second) return Done{};
        ReviewClip& clip = *m_request.second;
        clip.profile = m_out.student.profile;
        Models sameSide;
        for (const ModelPerformance& m : m_models)
            if (m.lead == m_out.student.lead()) sameSide.push_back(m);
        auto reading = read(clip, sameSide);
        if (reading) {
            std::tie(m_out.student, m_out.second) =
                agreedOnOrder(std::move(m_out.student), std::move(*reading), m_models, m_data.tables);
        } else {
            m_out.leftOut.push_back("The second view was left out: " + reading.error().what + ".");
        }
        return Done{};
    }

    Result<Done> readReference()
    {
        if (!m_request.reference) return Done{};
        const auto models = m_data.models(m_request.form, m_request.school, {}, m_request.reference->limits);
        if (!models) return models.error();
        auto reading = read(*m_request.reference, *models);
        if (!reading) return reading.error();
        m_out.reference = std::move(*reading);
        return m_request.referenceCut ? cutReference(*m_request.referenceCut) : Result<Done>(Done{});
    }

    Result<Done> cutReference(const ReferenceCut& cut)
    {
        auto reading = readAsCut(*m_out.reference, cut.postures, m_data.tables);
        if (!reading) return from(reading.error(), cut.source);
        m_out.reference = std::move(*reading);
        return Done{};
    }

    Result<Done> readTogether()
    {
        if (!m_out.second) return Done{};
        auto pair = measureTogether(m_out.student, *m_out.second, m_data.tables);
        if (pair)
            m_out.together = std::move(*pair);
        else
            m_out.leftOut.push_back("Each view is read by itself: " + pair.error().what + ".");
        return Done{};
    }

    Result<Done> judge()
    {
        ReviewInput input{m_request.form, m_request.school, m_request.level, &m_out.student};
        if (m_out.second) input.second = &*m_out.second;
        if (m_out.reference) input.reference = &*m_out.reference;
        if (m_out.together) input.together = &*m_out.together;
        input.yardstick = m_request.yardstick;
        input.limits = m_request.student.limits;
        input.memory = m_request.memory;
        input.own = m_request.own;
        auto review = judgeClip(m_data.standards, m_data.rules, input);
        if (!review) return review.error();
        m_out.review = std::move(*review);
        for (const std::string& words : m_out.leftOut)
            m_out.review.notes.push_back(words);
        m_out.earlier = std::move(m_request.earlier);
        if (!m_out.earlier.empty())
            m_out.progress = progressSince(m_out.earlier.back(), recordOf(m_out.review), m_data.rules);
        return Done{};
    }

    const ShippedData& m_data;
    ReviewRequest m_request;
    Models m_models; ///< the sides in which the student may do the form
    FinishedReview m_out;
};

} // namespace

Result<Done> checkRequest(const Standards& standards, const ReviewRequest& r)
{
    if (!standards.form(r.form)) return unknownId("form", r.form, idsOf(standards.forms));
    if (!standards.school(r.school)) return unknownId("school", r.school, idsOf(standards.schools));
    if (!standards.level(r.level)) return unknownId("level", r.level, idsOf(standards.levels));
    if (!r.referenceCut) return Done{};
    const ReferenceCut& cut = *r.referenceCut;
    if (!r.reference)
        return Error{Error::Kind::WrongUse, "there is no recorded reference to cut", cut.source,
                     "Name the clip that the cut is of as the reference."};
    if (cut.fit.form != r.form)
        return Error{Error::Kind::WrongUse,
                     "this is a cut of \"" + cut.fit.form + "\", not of \"" + r.form + "\"", cut.source,
                     "Name the form that the cut is of."};
    return Done{};
}

Result<FinishedReview> makeReview(const ShippedData& data, ReviewRequest request, FormComparison comparison)
{
    const auto sound = checkRequest(data.standards, request);
    if (!sound) return sound.error();
    auto finished = ReviewMaker(data, std::move(request)).make();
    if (finished && comparison == FormComparison::Now) compareForms(data, *finished);
    return finished;
}

void compareForms(const ShippedData& data, FinishedReview& finished, const Progress& progress)
{
    finished.review.doubt =
        formDoubt(data, finished.student, finished.review.school, finished.review.form, progress);
}

} // namespace jl
